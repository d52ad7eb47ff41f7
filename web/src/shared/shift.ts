import { useQuery } from '@tanstack/react-query'

import { answered, client, type Schemas } from './client/client'
import { setClock } from './clock'

export type Shift = Schemas['ShiftView']
export type NextItem = Schemas['NextItem']

/** The shift as it stands: shown on its page, heard on every page. */
export function useShift(enabled = true) {
  return useQuery({
    queryKey: ['shift'],
    queryFn: async () => {
      const shift = await answered(client.GET('/api/v1/shift'))
      setClock(shift.now, shift.zone)
      return shift
    },
    refetchInterval: 30_000, // what is written comes by itself; time goes by all the same,
    enabled,
  })
}
