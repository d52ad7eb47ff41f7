import { useQueryClient } from '@tanstack/react-query'

import { Problem } from './client/client'
import { useWrite } from './client/useWrite'
import { post, putAside, type Waiting } from './outbox'
import { useSession } from './session'

/** What a write to a batch is: where it goes, what it says, and what a person calls it. */
export type BatchWrite = Pick<Waiting, 'path' | 'body' | 'text'>

/**
 * A write to a batch that can wait on this tablet where the server is away. What it says must name its own moment: it
 * is sent later as it was made, under the same key, so that it lands once.
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
    const { path, ...rest } = writeOf(entry)
    const batchCode = queries.getQueryData<{ code: string }>(['batch', batchId])?.code ?? ''
    const person = session?.person ? { id: session.person.id, name: session.person.name } : undefined
    return {
      ...rest,
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
    putAside({ ...asWaiting(write.variables), key: write.keyOf(write.variables) })
    write.reset()
  }

  const offline = write.error instanceof Problem && write.error.code === 'offline'
  return { ...write, keepHere: offline ? keepHere : null }
}
