import { describe, expect, it } from 'vitest'

import { measureFor } from '../../shared/quantities'
import type { UnitChoice } from '../../shared/units'
import { ticksOf } from './ticks'

const UNITS: UnitChoice = { temperature: '°C', length: 'mm', mass: 'g' }

describe('ticks of a scale', () => {
  it('are round in the unit it is read in', () => {
    const span = { x_kind: 'temperature', x_low: 0, x_high: 45 }
    expect(ticksOf(span, measureFor('temperature', '', UNITS)).map((tick) => tick.label)).toEqual([
      '0 °C',
      '10 °C',
      '20 °C',
      '30 °C',
      '40 °C',
    ])
    const warm = ticksOf(span, measureFor('temperature', '', { ...UNITS, temperature: '°F' }))
    expect(warm.map((tick) => tick.label)).toEqual(['40 °F', '60 °F', '80 °F', '100 °F'])
    expect(warm[3]?.x).toBeCloseTo(37.78, 2)
  })

  it('name the days, also across a change of the clock and of the year', () => {
    const days = ticksOf({ x_kind: 'day', x_low: 0, x_high: 4, first_day: '2026-12-30' }, measureFor('day', '', UNITS))
    expect(days.map((tick) => tick.label)).toEqual(['30 Dec', '31 Dec', '1 Jan', '2 Jan', '3 Jan'])
    const march = ticksOf({ x_kind: 'day', x_low: 0, x_high: 3, first_day: '2026-03-28' }, measureFor('day', '', UNITS))
    expect(march.map((tick) => tick.label)).toEqual(['28 Mar', '29 Mar', '30 Mar', '31 Mar'])
  })
})
