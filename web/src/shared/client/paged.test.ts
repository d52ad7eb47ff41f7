import { expect, it } from 'vitest'

import { everyPage } from './paged'

it('takes every page, each after the one before', async () => {
  const asked: (string | null)[] = []
  const found = await everyPage(async (after) => {
    asked.push(after)
    return after === null ? { items: [1, 2], next: 'b' } : { items: [3], next: null }
  })
  expect(found).toEqual([1, 2, 3])
  expect(asked).toEqual([null, 'b'])
})
