import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { afterEach, expect, it } from 'vitest'

import { askAfter, askAnew } from './askAnew'

const closing: (() => void)[] = []
afterEach(() => closing.splice(0).forEach((close) => close()))

/** A page that asks how something stands; each question is answered when the test says so. */
function page() {
  const queries = new QueryClient()
  const open: ((answer: string) => void)[] = []
  const ask = () => new Promise<string>((resolve) => open.push(resolve))
  const observer = new QueryObserver(queries, { queryKey: ['batch', 'b1'], queryFn: ask, retry: false })
  closing.push(
    observer.subscribe(() => undefined),
    () => queries.clear(),
  )
  return { queries, open, seen: () => observer.getCurrentResult().data }
}

const soon = () => new Promise((resolve) => setTimeout(resolve, 5))

it('an answer asked for before the change is never taken for one from after it', async () => {
  const { queries, open, seen } = page()
  const done = askAnew(queries, { queryKey: ['batch'] }) // the first answer is not there yet
  await soon()
  expect(open).toHaveLength(2)
  open[0]?.('before')
  open[1]?.('after')
  await done
  expect(seen()).toBe('after')
})

it('leaves alone what was not named', async () => {
  const { queries, open } = page()
  await askAnew(queries, { predicate: (query) => query.queryKey[0] !== 'batch' })
  expect(open).toHaveLength(1)
})

it('what others write without pause keeps no page from its first sight', async () => {
  const { queries, open, seen } = page()
  const done = [askAfter(queries, { queryKey: ['batch'] }), askAfter(queries, { queryKey: ['batch'] })]
  await soon()
  expect(open).toHaveLength(1)
  open[0]?.('before')
  await soon()
  expect(seen()).toBe('before')
  expect(open).toHaveLength(2) // asked once more, for both
  open[1]?.('after')
  await Promise.all(done)
  expect(seen()).toBe('after')
})
