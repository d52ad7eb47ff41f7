import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'

import { askAfter } from './client/askAnew'

const TOGETHER_MS = 150 // what is written within this time is looked at once
const AGAIN_MS = 5_000 // a server that refused is asked again after this
const EVERYTHING = '*'

/** Which answers a written subject makes old: a batch its own page and every list that shows it. */
export function keysOf(subject: string): string[][] {
  const [kind, id] = subject.split(':')
  const lists = [['shift'], ['batches']]
  if (subject === EVERYTHING) return [...lists, ['batch'], ['plans'], ['instruments'], ['people'], ['ledger']]
  if (kind === 'batch') return [...lists, ['batch', id ?? ''], ['ledger']]
  if (kind === 'plan') return [['plans'], ['ledger']]
  if (kind === 'samples') return [['hubs']]
  return [['instruments'], ['people'], ['ledger']]
}

/** Gathers subjects for a moment, then has what they made old asked for again, each once. */
export function gatherer(ask: (queryKey: string[]) => void, wait = TOGETHER_MS) {
  let waiting = new Set<string>()
  let timer: ReturnType<typeof setTimeout> | undefined
  return {
    take(subject: string) {
      waiting.add(subject)
      timer ??= setTimeout(() => {
        const keys = new Map([...waiting].flatMap(keysOf).map((key) => [key.join('/'), key]))
        waiting = new Set()
        timer = undefined
        keys.forEach(ask)
      }, wait)
    },
    stop() {
      clearTimeout(timer)
    },
  }
}

/** While somebody is signed in, what others write shows at once; after a fall it is followed again. */
export function useLive(person: string): void {
  const queries = useQueryClient()
  useEffect(() => {
    if (!person) return
    const gathered = gatherer((queryKey) => void askAfter(queries, { queryKey }))
    let source: EventSource, again: ReturnType<typeof setTimeout> | undefined
    function follow() {
      source = new EventSource('/api/v1/live')
      source.addEventListener('changed', (event) => gathered.take(event.data as string))
      source.addEventListener('error', () => {
        // the browser comes back by itself from a broken line, and never from an answer that refuses
        if (source.readyState !== EventSource.CLOSED) return
        clearTimeout(again)
        again = setTimeout(follow, AGAIN_MS)
      })
      source.addEventListener('open', () => {
        gathered.take(EVERYTHING) // what was written while nobody listened: since a fall, or since the page first asked
      })
    }
    follow()
    return () => {
      clearTimeout(again)
      source.close()
      gathered.stop()
    }
  }, [person, queries])
}
