import { describe, expect, it } from 'vitest'

import { Caller, gravest } from './heard'
import type { NextItem } from './shift'

const item = (state: string, title = 'Core', batch = 'b') =>
  ({ kind: 'check', state, batch_id: batch, code: 'B-1', title, detail: '', due_at: null }) as unknown as NextItem
const MIN = 60_000

describe('what calls a cook', () => {
  it('is what comes up, not what stood there already', () => {
    const caller = new Caller()
    expect(caller.next([item('due')], 0)).toEqual([])
    expect(caller.next([item('due')], 30_000)).toEqual([])
    expect(caller.next([item('due'), item('due', 'Air')], MIN).map((each) => each.title)).toEqual(['Air'])
  })

  it('calls again as it grows worse, and again while nobody sees to it', () => {
    const caller = new Caller()
    caller.next([], 0)
    expect(caller.next([item('due')], MIN)).toHaveLength(1)
    expect(caller.next([item('due')], 20 * MIN)).toHaveLength(0)
    expect(caller.next([item('late')], 21 * MIN)).toHaveLength(1)
    expect(caller.next([item('late')], 24 * MIN)).toHaveLength(0)
    expect(caller.next([item('late')], 26 * MIN)).toHaveLength(1)
  })

  it('calls anew what was seen to and comes again', () => {
    const caller = new Caller()
    caller.next([], 0)
    expect(caller.next([item('trouble')], 1)).toHaveLength(1)
    expect(caller.next([], 2)).toHaveLength(0)
    expect(caller.next([item('trouble')], 3)).toHaveLength(1)
  })

  it('leaves reviews and steps to begin in silence', () => {
    const caller = new Caller()
    caller.next([], 0)
    expect(caller.next([item('review'), item('begin')], 1)).toEqual([])
    expect(gravest([item('due'), item('trouble'), item('late')])).toBe('trouble')
    expect(gravest([item('review')])).toBeNull()
  })
})
