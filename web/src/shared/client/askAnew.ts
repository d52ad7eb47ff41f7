import type { Query, QueryClient, QueryFilters } from '@tanstack/react-query'

/**
 * Ask for these again, now. What is under way was asked before the change and is dropped: a first answer too, which
 * invalidating alone would let stand.
 */
export async function askAnew(queries: QueryClient, which: QueryFilters = {}): Promise<void> {
  const first = (query: Query) => query.state.data === undefined && (which.predicate?.(query) ?? true)
  await queries.cancelQueries({ ...which, fetchStatus: 'fetching', predicate: first })
  await queries.invalidateQueries(which)
}

/**
 * Ask for these again once what is under way has come. However often it is called, answers keep coming: others who
 * write without pause cannot keep a page from its first sight.
 */
export async function askAfter(queries: QueryClient, which: QueryFilters): Promise<void> {
  const before = queries.getQueryCache().findAll({ ...which, fetchStatus: 'fetching' })
  await Promise.allSettled(before.map((query) => query.promise))
  await queries.invalidateQueries(which, { cancelRefetch: false })
}
