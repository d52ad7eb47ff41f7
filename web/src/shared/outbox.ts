import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useSyncExternalStore } from 'react'

import { askAnew } from './client/askAnew'
import { answered, client, keyed, Problem, type Schemas } from './client/client'

/** What could not be sent: kept on this tablet with its key, so that it lands once, whenever it lands. */
export interface Waiting {
  key: string
  batchId: string
  batchCode: string
  /** What it is, as whoever did it read it. */
  text: string
  path: string
  body: object
  /** Who did it, and in which kitchen: it goes out under them alone. What older tablets kept names nobody. */
  person?: { id: string; name: string }
  kitchen?: string
  refusal?: string
  /** It was asked about rather than refused: whoever did it may send it all the same. */
  asked?: boolean
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
    return Array.isArray(found) ? found.map(asKept) : []
  } catch {
    return []
  }
}

/** What tablets kept before anything but readings could wait. */
function asKept(entry: Waiting & { what?: string }): Waiting {
  if (entry.path) return entry
  const reading = entry.body as Schemas['ReadingEntry']
  const text = `${entry.what ?? ''}: ${reading.value} ${reading.unit}`
  return { ...entry, text, path: `/api/v1/batches/${entry.batchId}/readings` }
}

export function putAside(entry: Waiting): void {
  keep([...read(waiting()).filter((each) => each.key !== entry.key), entry])
}

export function takeOut(key: string): void {
  keep(read(waiting()).filter((each) => each.key !== key))
}

/** Send what was asked about all the same: under another key, since it says more than before. */
export function confirm(entry: Waiting): void {
  const again: Waiting = { ...entry, key: crypto.randomUUID(), body: { ...entry.body, confirmed: true } }
  delete again.refusal
  delete again.asked
  keep(read(waiting()).map((each) => (each.key === entry.key ? again : each)))
}

type Send = (entry: Waiting) => Promise<unknown>

export const post: Send = ({ path, key, body, person }) => {
  const header = { ...keyed(key), ...(person && { 'Brinefrost-Person': person.id }) }
  // every write to a batch takes a body and a key and answers alike
  const address = path as '/api/v1/batches/{batch_id}/actions'
  return answered(
    client.POST(address, { params: { path: { batch_id: '' }, header }, body: body as Schemas['ActionEntry'] }),
  )
}

const OF_ANOTHER = 'taker' // it was done by somebody who is not signed in here now: it waits for them

let sending: Promise<number> | undefined

/**
 * Send what waits of whoever is signed in, the oldest first, until the server is away again. Another's waits for them.
 * A refusal stays, with its sentence; how many landed. One round at a time: what is under way is not begun again.
 */
export function sendAll(holder: Holder | null, send: Send = post): Promise<number> {
  sending ??= sendEach(holder, send).finally(() => (sending = undefined))
  return sending
}

async function sendEach(holder: Holder | null, send: Send): Promise<number> {
  let landed = 0
  for (const entry of read(waiting()).filter((each) => !each.refusal && isOf(each, holder))) {
    try {
      await send(entry)
      takeOut(entry.key)
      landed += 1
    } catch (error) {
      const refused = error instanceof Problem && error.code !== 'offline' && error.status !== 401 && error.status < 500
      if (!refused || error.fields.reason === OF_ANOTHER) return landed // this page has not heard yet who is here
      putAside({ ...entry, refusal: error.message, asked: error.code === 'ask_first' })
    }
  }
  return landed
}

/** What waits on this tablet, as it stands. */
export function useWaiting(): Waiting[] {
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    waiting,
    () => '[]',
  )
  return read(text)
}

/** What waits on this tablet; tried again every few seconds and when the network is back. */
export function useOutbox(holder: Holder | null): Waiting[] {
  const queries = useQueryClient()
  const entries = useWaiting()
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
