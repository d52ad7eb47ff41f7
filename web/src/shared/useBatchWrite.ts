import { useQueryClient } from '@tanstack/react-query'

import { Problem } from './client/client'
import { useWrite } from './client/useWrite'
import { post, putAside, type Waiting } from './outbox'
import { useSession } from './session'

/** What a write to a batch is: where it goes, what it says, and what a person calls it. */
export type BatchWrite = Pick<Waiting, 'path' | 'body' | 'text'> & {
  /** What it says where it has to wait, if that is something else: it goes under a key of its own then. */
  later?: object
}

/**
 * A write to a batch that can wait on this tablet where the server is away: sent later as it was made, under the same
 * key, so that it lands once.
 */
export function useBatchWrite<Entry>(batchId: string, writeOf: (entry: Entry) => BatchWrite, { atOnce = false } = {}) {
  const queries = useQueryClient()
  const session = useSession().data
  const write = useWrite(
    (entry: Entry, key) => post({ ...asWaiting(entry), key, person: undefined }),
    ['batch', 'batches', 'shift'],
    { atOnce },
  )

  function asWaiting(entry: Entry): Omit<Waiting, 'key'> {
    const { path, body, text } = writeOf(entry)
    const batchCode = queries.getQueryData<{ code: string }>(['batch', batchId])?.code ?? ''
    const person = session?.person ? { id: session.person.id, name: session.person.name } : undefined
    return {
      body,
      text,
      path: `/api/v1/batches/${batchId}/${path}`,
      batchId,
      batchCode,
      person,
      kitchen: session?.kitchen,
    }
  }

  /** Keep what could not be sent; nothing where the server answered. */
  function keepHere(): void {
    if (write.variables === undefined) return
    const waits = asWaiting(write.variables)
    const { later } = writeOf(write.variables)
    if (later) putAside({ ...waits, body: later, key: crypto.randomUUID() })
    else putAside({ ...waits, key: write.keyOf(write.variables) })
    write.reset()
  }

  const offline = write.error instanceof Problem && write.error.code === 'offline'
  return { ...write, keepHere: offline ? keepHere : null }
}
