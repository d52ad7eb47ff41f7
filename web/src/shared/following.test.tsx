// @vitest-environment jsdom
import { QueryClient } from '@tanstack/react-query'
import { cleanup } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn } from '../testing'
import { useLive } from './live'

/** A line to the server that a test breaks, refuses and opens. */
class Line {
  static CLOSED = 2
  static all: Line[] = []
  readyState = 1
  closed = false
  private heard = new Map<string, (event: { data: string }) => void>()
  constructor(readonly address: string) {
    Line.all.push(this)
  }
  addEventListener(kind: string, then: (event: { data: string }) => void) {
    this.heard.set(kind, then)
  }
  tell(kind: string, data = '') {
    this.heard.get(kind)?.({ data })
  }
  close() {
    this.closed = true
  }
}

function Following({ person }: { person: string }) {
  useLive(person)
  return null
}

beforeEach(() => {
  Line.all = []
  vi.useFakeTimers()
  vi.stubGlobal('EventSource', Line)
})
afterEach(() => {
  cleanup()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('one who follows', () => {
  it('begins once somebody is signed in', () => {
    drawn(<Following person="" />)
    expect(Line.all).toHaveLength(0)
  })

  it('leaves a broken line to the browser, which comes back by itself', () => {
    drawn(<Following person="p" />)
    Line.all[0]?.tell('error')
    vi.advanceTimersByTime(20_000)
    expect(Line.all).toHaveLength(1)
  })

  it('asks again after an answer that refused, from which no browser comes back', () => {
    drawn(<Following person="p" />)
    const [first] = Line.all as [Line]
    first.readyState = Line.CLOSED
    first.tell('error')
    expect(Line.all).toHaveLength(1)
    vi.advanceTimersByTime(6_000)
    expect(Line.all).toHaveLength(2)
  })

  it('looks at everything again once it hears, the first time too: more may have been written since the page asked', () => {
    const asked = vi.spyOn(QueryClient.prototype, 'invalidateQueries')
    drawn(<Following person="p" />)
    Line.all[0]?.tell('open')
    vi.advanceTimersByTime(200)
    return vi.waitFor(() => expect(asked.mock.calls.map(([which]) => which?.queryKey?.[0])).toContain('shift'))
  })

  it('asks no more once nobody is there', () => {
    drawn(<Following person="p" />)
    const [first] = Line.all as [Line]
    first.readyState = Line.CLOSED
    first.tell('error')
    cleanup()
    vi.advanceTimersByTime(20_000)
    expect(Line.all).toHaveLength(1)
    expect(first.closed).toBe(true)
  })
})
