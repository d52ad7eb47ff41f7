import { useQuery } from '@tanstack/react-query'

import { answered, client, type Schemas } from '../../shared/client/client'
import { setClock } from '../../shared/clock'

export type Shift = Schemas['ShiftView']
export type Lane = Schemas['Lane']
export type NextItem = Schemas['NextItem']

export function useShift() {
  return useQuery({
    queryKey: ['shift'],
    queryFn: async () => {
      const shift = await answered(client.GET('/api/v1/shift'))
      setClock(shift.now, shift.zone)
      return shift
    },
    refetchInterval: 30_000, // what is written comes by itself; time goes by all the same,
  })
}
