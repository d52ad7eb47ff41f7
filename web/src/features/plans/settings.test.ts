import { describe, expect, it } from 'vitest'

import type { Step } from './api'
import { BLANKS, mainSettings, SETTINGS, valueOf } from './settings'

const kinds = Object.keys(BLANKS) as Step['kind'][]
const temp = (c: number, digits = 1) => `${c.toFixed(digits)} °C`

describe('the settings of a step', () => {
  it.each(kinds)('%s begins with values inside its own bounds', (kind) => {
    const step = { ...BLANKS[kind], id: 'x', name: 'x' } as Step
    for (const setting of SETTINGS[kind]) {
      const value = valueOf(step, setting.field)
      expect(value, setting.field).toBeGreaterThanOrEqual(setting.low)
      expect(value, setting.field).toBeLessThanOrEqual(setting.high)
    }
  })

  it.each(kinds)('%s says its main setting on the strip', (kind) => {
    const step = { ...BLANKS[kind], id: 'x', name: 'x' } as Step
    expect(mainSettings(step, temp)[0]).not.toBe('')
  })

  it('shows thickness in millimetres and time in minutes', () => {
    const step = { ...BLANKS.bath_cook, id: 'x', name: 'x', thickness_m: 0.028, duration_s: 7200 } as Step
    expect(mainSettings(step, temp)).toEqual(['65 °C', '120 min, 28 mm'])
  })

  it('reads a missing field as nought', () => {
    expect(valueOf({ ...BLANKS.receive, id: 'x', name: 'x' } as Step, 'nothing')).toBe(0)
  })
})
