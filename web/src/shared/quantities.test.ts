import { describe, expect, it } from 'vitest'

import { lasting, measureFor, written, plusMinus, valueOf } from './quantities'
import { type UnitChoice } from './units'

const METRIC: UnitChoice = { temperature: '°C', length: 'mm', mass: 'g' }
const CUSTOMARY: UnitChoice = { temperature: '°F', length: 'in', mass: 'oz' }

describe('measures', () => {
  // international yard and pound agreement (1959): 25.4 mm, 0.45359237 kg; exact
  it.each([
    ['length', 'mm', 0.0254, 1, 'in'],
    ['mass', 'kg', 0.45359237, 1, 'lb'],
    ['mass', 'g', 0.028349523125, 1, 'oz'],
    ['temperature', '', 100, 212, '°F'],
    ['difference', '', 10, 18, '°F'],
    ['height', '', 0.3048, 1, 'ft'],
    ['per_mass', '', 62.5, 1, 'oz/lb'],
    ['degree_hours', '', 1200 / 1.8, 1200, '°F·h'],
  ])('%s in %s', (kind, show, inside, typed, unit) => {
    const measure = measureFor(kind, show, CUSTOMARY)
    expect(measure.toShown(inside)).toBeCloseTo(typed, 9)
    expect(measure.toInside(typed)).toBeCloseTo(inside, 12)
    expect(measure.unit).toBe(unit)
  })

  it.each(['temperature', 'difference', 'length', 'height', 'mass', 'time', 'percent', 'ph', 'number'])(
    '%s goes there and back',
    (kind) => {
      for (const choice of [METRIC, CUSTOMARY]) {
        const measure = measureFor(kind, kind === 'time' ? 'h' : '', choice)
        for (const value of [0.003, 0.5, 17, 121])
          expect(measure.toInside(measure.toShown(value))).toBeCloseTo(value, 9)
      }
    },
  )

  it('writes as many digits as are needed', () => {
    expect(written(2, 2)).toBe('2')
    expect(written(2.345, 1)).toBe('2.3')
  })

  it.each([
    [45, '45 s'],
    [600, '10 min'],
    [7500, '2 h 05 min'],
    [3 * 86400, '3 d'],
  ])('%d s lasts %s', (seconds, text) => expect(lasting(seconds)).toBe(text))
})

describe('a number with the unit it came with', () => {
  const odd: UnitChoice = { temperature: '°F', length: 'in', mass: 'oz' }

  it.each([
    [4, '°C', '39.2 °F'],
    [0.5, 'K', '0.9 °F'],
    [25.4, 'mm', '1 in'],
    [0.45359237, 'kg', '1 lb'],
    [100, 'g', '3.53 oz'],
    [95, 'W/m²·K', '95 W/m²·K'],
    [12.5, '', '12.5'],
    [3.62, 'pH', 'pH 3.62'],
  ])('%d %s is %s', (value, unit, text) => expect(valueOf(value, unit, odd)).toBe(text))

  it('a doubt is a difference', () => {
    expect(plusMinus(0.5, '°C', odd)).toBe('±0.9 °F')
    expect(plusMinus(0.05, 'pH', odd)).toBe('±0.05 pH')
    expect(plusMinus(0.002, 'kg', METRIC)).toBe('±0.002 kg') // and not ±0 kg
    expect(plusMinus(0.8000000001, '°C', METRIC)).toBe('±0.8 °C')
    expect(plusMinus(2.4, '°C', METRIC)).toBe('±2.4 °C')
  })
})
