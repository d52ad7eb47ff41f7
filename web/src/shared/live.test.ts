import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { gatherer, keysOf } from './live'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

describe('what was written', () => {
  it('makes old its own page and the lists that show it', () => {
    expect(keysOf('batch:b1')).toContainEqual(['batch', 'b1'])
    expect(keysOf('batch:b1')).toContainEqual(['shift'])
    expect(keysOf('batch:b1')).not.toContainEqual(['plans'])
    expect(keysOf('plan:p1')).toContainEqual(['plans'])
    expect(keysOf('*')).toContainEqual(['batch'])
  })

  it('never asks again for a plan that somebody may be writing', () => {
    for (const subject of ['plan:p1', '*', 'batch:b1'])
      expect(keysOf(subject).map((key) => key[0])).not.toContain('plan')
  })
})

describe('what is gathered', () => {
  it('is asked for once, after a moment', () => {
    const asked: string[] = []
    const gathered = gatherer((key) => asked.push(String(key)), 100)
    gathered.take('batch:b1')
    gathered.take('batch:b1')
    gathered.take('batch:b2')
    expect(asked).toEqual([])
    vi.advanceTimersByTime(100)
    expect(asked).toEqual(['shift', 'batches', 'batch,b1', 'ledger', 'batch,b2'])
    gathered.take('plan:p1')
    vi.advanceTimersByTime(100)
    expect(asked.slice(5)).toEqual(['plans', 'ledger'])
  })

  it('is dropped when nobody follows any more', () => {
    const asked: string[] = []
    const gathered = gatherer(() => asked.push('again'), 100)
    gathered.take('*')
    gathered.stop()
    vi.advanceTimersByTime(500)
    expect(asked).toEqual([])
  })
})
