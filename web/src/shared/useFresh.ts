import type { UseQueryResult } from '@tanstack/react-query'
import { useState } from 'react'

/**
 * What was asked for, and nothing older while the answer is on its way: nobody may log against a view that this browser
 * kept from before. Where no answer comes, what was last seen stands, and the page says since when.
 */
export function useFresh<T>(query: UseQueryResult<T>, atMostMs: number): T | undefined {
  const [opened] = useState(() => Date.now())
  const old = query.dataUpdatedAt < opened - atMostMs
  return old && query.isFetching && query.failureCount === 0 ? undefined : query.data
}
