// @vitest-environment jsdom
import { cleanup } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn } from '../../testing'
import type { Lane } from './api'
import { LaneTrack, TRACK_WIDTH } from './LaneTrack'

const NOW = Date.parse('2026-11-24T12:00:00Z') / 1000
const [FROM, TO] = [NOW - 4 * 3600, NOW + 12 * 3600]
const at = (hours: number) => new Date((NOW + hours * 3600) * 1000).toISOString()
const x = (hours: number) => ((hours + 4) / 16) * TRACK_WIDTH

function lane(more: object): Lane {
  return { batch_id: 'b1', blocks: [], checks: [], curves: [], words: '', waits_for: '', ...more } as unknown as Lane
}
const block = (step: string, from: number, to: number, started: boolean, finished = false) => ({
  step, name: step, starts: at(from), ends: at(to), started, finished,
}) // prettier-ignore

function track(more: object) {
  const found = drawn(<LaneTrack lane={lane(more)} fromS={FROM} toS={TO} nowS={NOW} ticks={[]} tall />)
  return found.container
}
const points = (line: Element) =>
  (line.getAttribute('points') ?? '').split(' ').map((pair) => pair.split(',').map(Number) as [number, number])

beforeEach(
  () =>
  vi.stubGlobal('ResizeObserver', class { observe() {} disconnect() {} }), // prettier-ignore
)
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a lane', () => {
  it('lays steps on the clock, the running one marked, and leaves out what lies beyond it', () => {
    const drawn = track({
      blocks: [block('cook', -2, 1, true), block('chill', 1, 3, false), block('gone', -9, -5, true, true)],
    })
    const bars = [...drawn.querySelectorAll('rect.bar-running, rect.bar-other')]
    expect(bars.map((bar) => [bar.getAttribute('class'), Number(bar.getAttribute('x'))])).toEqual([
      ['bar-running', x(-2)],
      ['bar-other', x(1)],
    ])
    expect(Number(bars[0]!.getAttribute('width'))).toBeCloseTo(x(1) - x(-2) - 2, 6)
  })

  it('cuts a bar off where the day begins and ends', () => {
    const bars = track({ blocks: [block('keep', -30, 90, true)] }).querySelectorAll('rect.bar-running')
    expect([bars[0]!.getAttribute('x'), bars[0]!.getAttribute('width')]).toEqual(['0', String(TRACK_WIDTH - 2)])
  })

  it('draws what was measured and what is expected in different lines, warmer higher', () => {
    const curve = (basis: string, name: string) => ({
      step: 'cook',
      name,
      basis,
      times_s: [NOW - 3600, NOW],
      values: [5, 60],
    })
    const drawn = track({ curves: [curve('logger', 'a'), curve('expected', 'b')] })
    const lines = [...drawn.querySelectorAll('polyline')]
    expect(lines.map((line) => line.getAttribute('class'))).toEqual(['curve-measured', 'curve-expected'])
    const [cold, hot] = points(lines[0]!)
    expect(cold![0]).toBeCloseTo(x(-1), 1)
    expect(hot![1]).toBeLessThan(cold![1])
  })

  it('in trouble says so on a flag that stays inside, and marks what is expected as missing', () => {
    const words = 'Chill: 5 °C would be reached forty minutes late'
    const curves = [{ step: 'chill', name: 'c', basis: 'expected', times_s: [NOW, TO], values: [40, 8] }]
    const drawn = track({ words, growth_from_c: 5, growth_to_c: 57, curves })
    expect(drawn.querySelector('polyline')!.getAttribute('class')).toBe('curve-misses')
    const flag = drawn.querySelector('rect.flag')!
    expect(Number(flag.getAttribute('x')) + Number(flag.getAttribute('width'))).toBeLessThanOrEqual(TRACK_WIDTH)
    expect(drawn.textContent).toContain(words)
  })

  it('a reading by hand is a point of its own', () => {
    const curves = [{ step: 'cook', name: 'h', basis: 'hand', times_s: [NOW - 7200, NOW - 60], values: [20, 61] }]
    expect(track({ curves }).querySelectorAll('circle.curve-dot')).toHaveLength(2)
  })

  it('says what it waits for only while nothing runs', () => {
    expect(track({ waits_for: 'Begin the chill' }).textContent).toContain('Begin the chill')
    cleanup()
    const running = track({ waits_for: 'Begin the chill', blocks: [block('cook', -1, 1, true)] })
    expect(running.textContent).not.toContain('Begin the chill')
  })

  it('shows the checks of its hours by their shape, and none that was missed or lies beyond', () => {
    const check = (id: string, state: string, hours: number) => ({ id, state, due_at: at(hours) })
    const drawn = track({ checks: [check('a', 'due', 1), check('b', 'missed', 2), check('c', 'upcoming', 40)] })
    const marks = [...drawn.querySelectorAll('svg > *')].filter((each) => /mark-/.test(each.outerHTML))
    expect(marks).toHaveLength(1)
  })
})
