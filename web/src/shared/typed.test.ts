import { describe, expect, it } from 'vitest'

import { measureFor } from './quantities'
import { likelyUnit, numberFrom, quantityFrom } from './typed'
import type { UnitChoice } from './units'

const METRIC: UnitChoice = { temperature: '°C', length: 'mm', mass: 'g' }
const CUSTOMARY: UnitChoice = { temperature: '°F', length: 'in', mass: 'oz' }

function inside(text: string, kind: string, show = '', choice = METRIC): number {
  return quantityFrom(text, kind, measureFor(kind, show, choice))
}

describe('what people type', () => {
  it.each([
    ['62,5', 62.5],
    ['−1', -1],
    ['.5', 0.5],
    ['1/4', 0.25],
    ['1 1/2', 1.5],
    ['3.', 3],
    ['−1 1/2', -1.5],
    ['-1/2', -0.5],
    ['-0.5', -0.5],
  ])('%s is a number', (text, value) => expect(numberFrom(text)).toBeCloseTo(value, 12))

  it.each(['', 'x', '1..2', '1,200.5', '1/0', '--2', '1e5'])('“%s” is none', (text) =>
    expect(numberFrom(text)).toBeNaN(),
  )

  // 9 CFR and the Food Code print 135 °F as 57 °C; the exact value is 57.22
  it.each([
    ['135f', 'temperature', '', 57.2222222222],
    ['135 °F', 'temperature', '', 57.2222222222],
    ['57c', 'temperature', '', 57],
    ['18 f', 'difference', '', 10],
    ['2h', 'time', 'min', 7200],
    ['1 h 30', 'time', 'min', 5400],
    ['1h30min', 'time', 'min', 5400],
    ['1:30', 'time', 'min', 5400],
    ['90', 'time', 'min', 5400],
    ['2 days', 'time', 'h', 172800],
    ['1/4 in', 'length', 'mm', 0.00635],
    ['1 1/2"', 'length', 'mm', 0.0381],
    ['2.5cm', 'length', 'mm', 0.025],
    ['2 lb 4 oz', 'mass', 'g', 1.0205828325],
    ['500 g', 'mass', 'kg', 0.5],
    ['5 %', 'percent', '', 5],
  ])('%s as %s', (text, kind, show, value) => expect(inside(text, kind, show)).toBeCloseTo(value, 9))

  it('takes a named unit over the one that is shown', () => {
    expect(inside('57 c', 'temperature', '', CUSTOMARY)).toBe(57)
    expect(inside('30 mm', 'length', 'mm', CUSTOMARY)).toBeCloseTo(0.03, 12)
  })

  it.each([
    ['2 h', 'temperature'],
    ['135 f', 'length'],
    ['30 min 2 h', 'time'],
    ['2 apples', 'mass'],
    ['1 h -30 min', 'time'],
    ['', 'mass'],
    ['', 'ph'],
    [' ', 'percent'],
    ['', 'temperature'],
  ])('%s is no %s', (text, kind) => expect(inside(text, kind)).toBeNaN())
})

describe('a number out of bounds', () => {
  it('names the unit in which it would fit', () => {
    expect(likelyUnit('145', 'temperature', 40, 100, measureFor('temperature', '', METRIC))).toBe('°F')
    expect(likelyUnit('60', 'temperature', 40, 100, measureFor('temperature', '', CUSTOMARY))).toBe('°C')
    expect(likelyUnit('2', 'length', 0.02, 0.2, measureFor('length', 'mm', METRIC))).toBe('in')
  })

  it('says nothing where no unit helps', () => {
    expect(likelyUnit('9000', 'temperature', 40, 100, measureFor('temperature', '', METRIC))).toBeNull()
    expect(likelyUnit('x', 'temperature', 40, 100, measureFor('temperature', '', METRIC))).toBeNull()
  })
})
