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
  refusal?: string
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
 * Send what waits, the oldest first, until the server is away again. A refusal stays, with its sentence; how many
 * landed.
 */
export async function sendAll(send: Send = post): Promise<number> {
  let landed = 0
  for (const entry of read(waiting()).filter((each) => !each.refusal)) {
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
export function useOutbox(): Waiting[] {
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
  const open = entries.some((each) => !each.refusal)
  useEffect(() => {
    if (!open) return
    const go = () => void sendAll().then((landed) => (landed ? askAnew(queries) : undefined))
    const timer = setInterval(go, EVERY_MS)
    window.addEventListener('online', go)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', go)
    }
  }, [open, queries])
  return entries
}
