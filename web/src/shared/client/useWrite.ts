import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'

import { EntryKey, Problem } from './client'

/** A write that can be sent again without landing twice. `stale` names the queries it makes old. */
export function useWrite<Entry, Reply>(send: (entry: Entry, key: string) => Promise<Reply>, stale: string[]) {
  const queries = useQueryClient()
  const key = useRef(new EntryKey())
  const mutation = useMutation<Reply, Problem, Entry>({
    mutationFn: (entry) => send(entry, key.current.for(entry)),
    networkMode: 'always',
    retry: false,
    onSuccess: async () => {
      key.current.done()
      await Promise.all(stale.map((name) => queries.invalidateQueries({ queryKey: [name] })))
    },
  })
  return { ...mutation, keyOf: (entry: Entry) => key.current.for(entry) }
}
