import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useSyncExternalStore } from 'react'

import { askAnew } from './client/askAnew'
import { answered, client, keyed, Problem, type Schemas } from './client/client'

/** A reading that could not be sent: kept on this tablet with its key, so that it lands once, whenever it lands. */
export interface Waiting {
  key: string
  batchId: string
  batchCode: string
  what: string
  body: Schemas['ReadingEntry']
  /** Who took it, and in which kitchen: it goes out under them alone. What older tablets kept names nobody. */
  person?: { id: string; name: string }
  kitchen?: string
  refusal?: string
}

/** Who is signed in at this tablet. */
export interface Holder {
  id: string
  kitchen: string
}

/** Whether an entry is of whoever is signed in. */
export function isOf(entry: Waiting, holder: Holder | null): boolean {
  return holder !== null && entry.person?.id === holder.id && entry.kitchen === holder.kitchen
}

const PLACE = 'brinefrost.outbox'
const EVERY_MS = 10_000
const listeners = new Set<() => void>()

export function waiting(): string {
  return localStorage.getItem(PLACE) ?? '[]'
}

function keep(entries: Waiting[]): void {
  localStorage.setItem(PLACE, JSON.stringify(entries))
  listeners.forEach((listener) => listener())
}

export function read(text: string): Waiting[] {
  try {
    const found: unknown = JSON.parse(text)
    return Array.isArray(found) ? (found as Waiting[]) : []
  } catch {
    return []
  }
}

export function putAside(entry: Waiting): void {
  keep([...read(waiting()).filter((each) => each.key !== entry.key), entry])
}

export function takeOut(key: string): void {
  keep(read(waiting()).filter((each) => each.key !== key))
}

type Send = (entry: Waiting) => Promise<unknown>

const post: Send = (entry) =>
  answered(
    client.POST('/api/v1/batches/{batch_id}/readings', {
      params: { path: { batch_id: entry.batchId }, header: keyed(entry.key) },
      body: entry.body,
    }),
  )

/**
 * Send what waits of whoever is signed in, the oldest first, until the server is away again. Another's waits for them.
 * A refusal stays, with its sentence; how many landed.
 */
export async function sendAll(holder: Holder | null, send: Send = post): Promise<number> {
  let landed = 0
  for (const entry of read(waiting()).filter((each) => !each.refusal && isOf(each, holder))) {
    try {
      await send(entry)
      takeOut(entry.key)
      landed += 1
    } catch (error) {
      const refused = error instanceof Problem && error.code !== 'offline' && error.status !== 401 && error.status < 500
      if (!refused) return landed
      putAside({ ...entry, refusal: error.message })
    }
  }
  return landed
}

/** What waits on this tablet; tried again every few seconds and when the network is back. */
export function useOutbox(holder: Holder | null): Waiting[] {
  const queries = useQueryClient()
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    waiting,
    () => '[]',
  )
  const entries = read(text)
  const open = entries.some((each) => !each.refusal && isOf(each, holder))
  const [id, kitchen] = [holder?.id, holder?.kitchen]
  useEffect(() => {
    if (!open || !id || kitchen === undefined) return
    const go = () => void sendAll({ id, kitchen }).then((landed) => (landed ? askAnew(queries) : undefined))
    const timer = setInterval(go, EVERY_MS)
    window.addEventListener('online', go)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', go)
    }
  }, [open, queries, id, kitchen])
  return entries
}
