import { describe, expect, it } from 'vitest'

import { lasting, measureFor, written } from './quantities'
import { localise, type UnitChoice } from './units'

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
  ])('%s in %s', (kind, show, inside, typed, unit) => {
    const measure = measureFor(kind, show, CUSTOMARY)
    expect(measure.toShown(inside)).toBeCloseTo(typed, 9)
    expect(measure.toInside(typed)).toBeCloseTo(inside, 12)
    expect(measure.unit).toBe(unit)
  })

  it.each(['temperature', 'difference', 'length', 'height', 'mass', 'time', 'percent', 'ph', 'number'])('%s goes there and back', (kind) => {
    for (const choice of [METRIC, CUSTOMARY]) {
      const measure = measureFor(kind, kind === 'time' ? 'h' : '', choice)
      for (const value of [0.003, 0.5, 17, 121]) expect(measure.toInside(measure.toShown(value))).toBeCloseTo(value, 9)
    }
  })

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

describe('sentences for people who think in inches and ounces', () => {
  it('turn lengths and masses', () => {
    expect(localise('Cut it to 25.4 mm; weigh 100 g in 2 kg.', '°C', 'in', 'oz')).toBe('Cut it to 1 in; weigh 3.53 oz in 4.41 lb.')
  })

  it('leave concentrations and coefficients alone', () => {
    const text = '50 g/kg, 95 W/m²·K, 14 mmol/kg, 5 min'
    expect(localise(text, '°C', 'in', 'oz')).toBe(text)
  })

  it('turn ranges written with an arrow', () => {
    expect(localise('Cooling 57 → 21 °C in 2 h', '°F')).toBe('Cooling 135 → 70 °F in 2 h')
  })
})
