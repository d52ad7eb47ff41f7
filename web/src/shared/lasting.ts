import type { DehydrateOptions } from '@tanstack/react-query'
import type { PersistedClient, Persister } from '@tanstack/react-query-persist-client'
import { del, get, set } from 'idb-keyval'

declare const BUILT: string // when this page was built: what an older one kept is not believed

const PLACE = 'brinefrost.seen'
const EVERY_MS = 4_000 // how closely what is seen is kept
export const LASTS_MS = 16 * 3_600_000 // a shift and a half
// what a pass needs to be read and written to without a network, of whoever is signed in
const KEPT = new Set(['session', 'shift', 'batches', 'batch', 'instruments', 'people', 'reference', 'words'])

/** What was last seen, kept in this browser so that it opens without a network; gone once somebody signs out. */
export const seen: Persister = {
  persistClient: later(async (client: PersistedClient) => {
    await set(PLACE, client)
  }),
  restoreClient: () => get<PersistedClient>(PLACE).catch(() => undefined),
  removeClient: () => forgetSeen(),
}

export async function forgetSeen(): Promise<void> {
  waiting = undefined
  try {
    await del(PLACE)
  } catch {
    // a browser that keeps nothing has nothing to forget
  }
}

export const lasting = {
  persister: seen,
  maxAge: LASTS_MS,
  buster: typeof BUILT === 'string' ? BUILT : '',
  dehydrateOptions: {
    // what was seen is kept although asking for it again has failed since: that is just when it is wanted
    shouldDehydrateQuery: ({ queryKey, state }) => state.data !== undefined && KEPT.has(String(queryKey[0])),
  } satisfies DehydrateOptions,
}

let waiting: PersistedClient | undefined

/** At most every few seconds, the latest: a pass at work changes what it sees all the time. */
function later(keep: (client: PersistedClient) => Promise<void>) {
  let timer: ReturnType<typeof setTimeout> | undefined
  async function go() {
    clearTimeout(timer)
    timer = undefined
    const client = waiting
    waiting = undefined
    if (client) await keep(client).catch(() => undefined) // a full disk takes nothing from the page
  }
  if (typeof document !== 'undefined')
    document.addEventListener('visibilitychange', () => document.visibilityState === 'hidden' && void go())
  return (client: PersistedClient) => {
    waiting = client
    timer ??= setTimeout(() => void go(), EVERY_MS)
  }
}
