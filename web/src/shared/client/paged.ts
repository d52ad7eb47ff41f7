import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'

import { answered, client } from './client'

export interface Page<Item> {
  items: Item[]
  next: string | null
}

type Ask<Item> = (after: string | null) => Promise<Page<Item>>

/** A list that grows, page by page: the rows so far, and how to ask for more. */
export function usePaged<Item>(queryKey: readonly unknown[], ask: Ask<Item>, refetchInterval?: number) {
  const pages = useInfiniteQuery({
    queryKey,
    initialPageParam: null as string | null,
    queryFn: ({ pageParam }) => ask(pageParam),
    getNextPageParam: (page) => page.next,
    placeholderData: keepPreviousData,
    refetchInterval: refetchInterval ?? false,
  })
  return { ...pages, rows: pages.data?.pages.flatMap((page) => page.items) }
}

/** All of a list that stays short: every page of it. */
export async function everyPage<Item>(ask: Ask<Item>): Promise<Item[]> {
  const found: Item[] = []
  let after: string | null = null
  do {
    const page: Page<Item> = await ask(after)
    found.push(...page.items)
    after = page.next
  } while (after)
  return found
}

/** The whole library. */
export function everyPlan() {
  return everyPage((after) => answered(client.GET('/api/v1/plans', { params: { query: { after } } })))
}
