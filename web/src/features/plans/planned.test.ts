import { describe, expect, it } from 'vitest'

import { hoursAndMinutes, planned } from './planned'

describe('what is computed', () => {
  it.each([
    ['pass', 'would_meet'],
    ['fail', 'would_fail'],
    ['too_close', 'not_measured'],
    ['pending', 'would_fail'],
    ['not_measured', 'not_measured'],
    ['a state to come', 'would_fail'],
  ])('%s is %s, and never met', (state, shown) => expect(planned(state)).toBe(shown))
})

it.each([
  [0, '0:00'],
  [3600, '1:00'],
  [3900, '1:05'],
  [7199, '2:00'], // not 1:60
  [59, '0:01'],
  [90_061, '25:01'],
])('%i s is %s on the axis', (seconds, said) => expect(hoursAndMinutes(seconds)).toBe(said))
