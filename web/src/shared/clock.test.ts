import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { dayOf, hourOf, lengthOf, momentFromClock, nowMs, setClock, timeOf, weekdayOf, whenOf, zone } from './clock'

function at(utc: string, zoneName = 'Europe/Zurich'): void {
  vi.setSystemTime(new Date(utc))
  setClock(utc, zoneName)
}

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

describe('the server’s clock', () => {
  it('is followed when this machine’s is wrong', () => {
    vi.setSystemTime(new Date('2026-11-24T10:00:00Z'))
    setClock('2026-11-24T11:30:00Z', 'UTC')
    expect(new Date(nowMs()).toISOString()).toBe('2026-11-24T11:30:00.000Z')
    vi.advanceTimersByTime(60_000)
    expect(new Date(nowMs()).toISOString()).toBe('2026-11-24T11:31:00.000Z')
    expect(zone()).toBe('UTC')
  })
})

describe('times in the kitchen’s zone', () => {
  it('are the kitchen’s, not the browser’s', () => {
    at('2026-11-24T11:30:00Z')
    expect(timeOf('2026-11-24T08:30:00Z')).toBe('09:30')
    expect(hourOf(Date.parse('2026-11-24T23:30:00Z'))).toBe(0)
    expect(weekdayOf('2026-11-24T11:00:00Z')).toBe('Tuesday')
  })

  it('name the day only when it is another', () => {
    at('2026-11-24T11:30:00Z')
    expect(whenOf('2026-11-24T08:30:00Z')).toBe('09:30')
    expect(whenOf('2026-11-23T08:30:00Z')).toBe('23 Nov, 09:30')
    // half past eleven in the evening UTC is the next day in Zurich
    expect(dayOf('2026-11-23T23:30:00Z')).toBe('24 Nov')
  })
})

describe('a clock time as typed', () => {
  it('is the last such time before now', () => {
    at('2026-11-24T11:30:00Z')
    expect(momentFromClock('12:05')).toBe(Date.parse('2026-11-24T11:05:00Z'))
    expect(momentFromClock('1205')).toBe(Date.parse('2026-11-24T11:05:00Z'))
    expect(momentFromClock('12.05')).toBe(Date.parse('2026-11-24T11:05:00Z'))
  })

  it('reaches back over midnight', () => {
    at('2026-11-23T23:20:00Z') // 00:20 in Zurich
    expect(momentFromClock('23:50')).toBe(Date.parse('2026-11-23T22:50:00Z'))
  })

  it('may lie a little ahead, for clocks that differ', () => {
    at('2026-11-24T11:30:00Z')
    expect(momentFromClock('12:45')).toBe(Date.parse('2026-11-24T11:45:00Z'))
  })

  it('is yesterday’s when it lies well ahead', () => {
    at('2026-11-24T11:30:00Z')
    expect(momentFromClock('18:00')).toBe(Date.parse('2026-11-23T17:00:00Z'))
  })

  it('holds on the day the clocks go back', () => {
    at('2026-10-25T05:00:00Z') // 06:00 in Zurich, after the change at 01:00 UTC
    expect(momentFromClock('04:00')).toBe(Date.parse('2026-10-25T03:00:00Z'))
    expect(momentFromClock('01:30')).toBe(Date.parse('2026-10-24T23:30:00Z'))
  })

  it('is the later of two where an hour comes twice', () => {
    at('2026-10-25T01:40:00Z') // 02:40 in Zurich, the second time
    expect(momentFromClock('02:30')).toBe(Date.parse('2026-10-25T01:30:00Z'))
    expect(momentFromClock('02:50')).toBe(Date.parse('2026-10-25T01:50:00Z'))
    at('2026-10-25T00:40:00Z') // the first time: the second is still to come
    expect(momentFromClock('02:30')).toBe(Date.parse('2026-10-25T00:30:00Z'))
  })

  it('is none where the clocks leave its hour out', () => {
    at('2026-03-29T05:00:00Z') // 07:00 in Zurich; 02:00 to 03:00 was left out
    expect(momentFromClock('02:30')).toBeNull()
    expect(momentFromClock('03:30')).toBe(Date.parse('2026-03-29T01:30:00Z'))
  })

  it.each(['', 'noon', '25:00', '12:61', '5'])('“%s” is none', (text) => {
    at('2026-11-24T11:30:00Z')
    expect(momentFromClock(text)).toBeNull()
  })
})

describe('lengths', () => {
  it.each([
    [0, '0 min'],
    [59 * 60, '59 min'],
    [3600, '1 h'],
    [3660, '1 h 01 min'],
    [47 * 3600, '47 h'],
    [50 * 3600, '2 d 2 h'],
    [-1800, '30 min'],
  ])('%d s is %s', (seconds, words) => {
    expect(lengthOf(seconds)).toBe(words)
  })
})
