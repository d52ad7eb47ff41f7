import { useQuery } from '@tanstack/react-query'

import { answered, client } from './client/client'

const PLACE = 'brinefrost.ledger'
const EVERY_MS = 10 * 60_000
type Ends = Record<string, { seq: number; digest: string }>

function ends(): Ends {
  try {
    return (JSON.parse(localStorage.getItem(PLACE) ?? '{}') ?? {}) as Ends
  } catch {
    return {}
  }
}

/**
 * Whether the ledger still holds the last record that this browser has seen of the kitchen. The end is kept here, where
 * nobody who puts the records back to an older state reaches it; one that no longer fits is never replaced.
 */
export function useLedgerEnd(kitchen: string | undefined) {
  return useQuery({
    queryKey: ['ledger-end', kitchen],
    queryFn: async () => {
      const place = kitchen ?? ''
      const { seq, digest } = ends()[place] ?? { seq: 0, digest: '' }
      const end = await answered(client.GET('/api/v1/ledger/end', { params: { query: { seq, digest } } }))
      const { holds } = end
      if (holds)
        localStorage.setItem(PLACE, JSON.stringify({ ...ends(), [place]: { seq: end.seq, digest: end.digest } }))
      return { holds, seq }
    },
    enabled: kitchen !== undefined,
    refetchInterval: EVERY_MS,
    staleTime: EVERY_MS,
  })
}

/** What the integrity check found that runs by itself once a day. */
export function useLastCheck(person: string | undefined) {
  return useQuery({
    queryKey: ['last-check', person],
    queryFn: () => answered(client.GET('/api/v1/ledger/integrity/last')),
    enabled: person !== undefined,
    refetchInterval: EVERY_MS,
    staleTime: EVERY_MS,
  })
}
