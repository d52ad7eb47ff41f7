import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'

import { askAnew } from './askAnew'
import { EntryKey, Problem } from './client'

/**
 * A write that can be sent again without landing twice. `stale` names the queries it makes old. It is done once they
 * are asked for anew, so that nothing can be done twice on an old view; `atOnce`: with the server's reply.
 */
export function useWrite<Entry, Reply>(
  send: (entry: Entry, key: string) => Promise<Reply>,
  stale: string[],
  { atOnce = false } = {},
) {
  const queries = useQueryClient()
  const key = useRef(new EntryKey())
  const mutation = useMutation<Reply, Problem, Entry>({
    mutationFn: (entry) => send(entry, key.current.for(entry)),
    networkMode: 'always',
    retry: false,
    onSuccess: async () => {
      key.current.done()
      const anew = Promise.all(stale.map((name) => askAnew(queries, { queryKey: [name] })))
      if (!atOnce) await anew
    },
  })
  return { ...mutation, keyOf: (entry: Entry) => key.current.for(entry) }
}
