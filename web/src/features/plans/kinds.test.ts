import { describe, expect, it } from 'vitest'

import type { UnitChoice } from '../../shared/units'
import type { Step } from './api'
import { type Kind, kindUnless, mainSettings, withValue } from './kinds'

const METRIC: UnitChoice = { temperature: '°C', length: 'mm', mass: 'g' }
const CUSTOMARY: UnitChoice = { temperature: '°F', length: 'in', mass: 'oz' }
const spec = (name: string, kind: string, over: object = {}) => ({
  name,
  kind,
  show: '',
  size: 1,
  main: true,
  step: null,
  options: [],
  columns: [],
  optional: false,
  only: {},
  low: null,
  high: null,
  fallback: null,
  most: null,
  file: null,
  ...over,
})
const BATH = {
  key: 'cook',
  fields: [
    spec('bath_c', 'temperature'),
    spec('thickness_m', 'length', { show: 'mm' }),
    spec('days', 'time', { show: 'd', size: 86400 }),
    spec('keep', 'choice'),
  ],
} as unknown as Kind
const STEP = {
  id: 'x',
  name: 'x',
  kind: 'cook',
  bath_c: 63,
  thickness_m: 0.0254,
  days: 5,
  keep: 'fridge',
} as unknown as Step

describe('the settings a step is known by', () => {
  it('are said in the person’s units', () => {
    expect(mainSettings(BATH, STEP, METRIC, (name) => name)).toEqual(['63 °C', '25.4 mm, 5 d, fridge'])
    expect(mainSettings(BATH, STEP, CUSTOMARY, (name) => name)).toEqual(['145 °F', '1 in, 5 d, fridge'])
  })

  it('are empty for a kind nobody knows', () => {
    expect(mainSettings(undefined, STEP, METRIC, (name) => name)).toEqual(['', ''])
  })

  it('change one at a time, counts whole', () => {
    const packs = spec('packs', 'number')
    expect(withValue({ ...STEP, packs: 6 } as never, packs as never, 6.4)).toMatchObject({ packs: 6, bath_c: 63 })
    expect(withValue(STEP, spec('bath_c', 'temperature') as never, 62.5)).toMatchObject({ bath_c: 62.5 })
  })
})

it('says a kind once', () => {
  expect(kindUnless('Receive', 'Receive')).toBe('')
  expect(kindUnless('Goods in', 'Receive')).toBe('Receive')
})
