import { beforeEach, describe, expect, it, vi } from 'vitest'

import { celsiusFrom, localise, shown, temperature } from './units'

beforeEach(() => vi.unstubAllGlobals())

describe('temperatures', () => {
  // fixed points of the Fahrenheit scale
  it.each([
    [0, 32],
    [100, 212],
    [-40, -40],
    [73.8888888888889, 165],
  ])('%d °C is %d °F', (celsius, fahrenheit) => {
    expect(shown(celsius, '°F')).toBeCloseTo(fahrenheit, 9)
    expect(celsiusFrom(fahrenheit, '°F')).toBeCloseTo(celsius, 9)
  })

  it('leaves Celsius as it is', () => {
    expect(shown(62.8, '°C')).toBe(62.8)
    expect(celsiusFrom(62.8, '°C')).toBe(62.8)
  })

  it('goes there and back', () => {
    for (let c = -40; c <= 120; c += 0.7) expect(celsiusFrom(shown(c, '°F'), '°F')).toBeCloseTo(c, 9)
  })

  it('writes the unit with the number', () => {
    expect(temperature(3.14, '°C')).toBe('3.1 °C')
    expect(temperature(5, '°F', 0)).toBe('41 °F')
  })
})

describe('sentences for people who think in °F', () => {
  it('are left alone in °C', () => {
    expect(localise('Will miss 21 °C by 41 min.', '°C')).toBe('Will miss 21 °C by 41 min.')
  })

  it('turn absolute temperatures', () => {
    expect(localise('Core 55.4 °C; 21 °C must be reached.', '°F')).toBe('Core 131.7 °F; 70 °F must be reached.')
  })

  it('turn differences as differences', () => {
    expect(localise('5.6 °C breaks ≤5 °C by 0.6 °C.', '°F')).toBe('42.1 °F breaks ≤41 °F by 1.1 °F.')
    expect(localise('good to ±0.5 °C', '°F')).toBe('good to ±0.9 °F')
  })

  it('turn both ends of a range', () => {
    expect(localise('Core from 10 to 54.4 °C within 4 h', '°F')).toBe('Core from 50 to 130 °F within 4 h')
  })

  it('bear the limits as the codes print them, and what was measured exactly', () => {
    // Food Code 2022, 3-501.14, 3-401.11: 135, 70, 41, 165, 130 °F
    expect(localise('Cooling 57 → 21 °C in 2 h, → 5 °C in 6 h in all', '°F')).toBe('Cooling 135 → 70 °F in 2 h, → 41 °F in 6 h in all')
    expect(localise('Poultry core 74 °C, instantaneous', '°F')).toContain('°F')
    expect(localise('12.0 min at 54.4 °C', '°F')).toBe('12.0 min at 130 °F')
    expect(localise('the core is at 21 °C', '°F')).toBe('the core is at 69.8 °F')
    expect(localise('hottest 57 °C', '°F')).toBe('hottest 134.6 °F')
  })

  it('turn differences wherever they stand', () => {
    expect(localise('margin 0.5 K', '°F')).toBe('margin 0.9 °F')
    expect(localise('margin 0.5 K', '°C')).toBe('margin 0.5 °C')
    expect(localise('0.4 K', '°F')).toBe('0.7 °F')
    expect(localise('within 1 °C of the fixed point', '°F')).toBe('within 1.8 °F of the fixed point')
    expect(localise('462 of 665 °C·h', '°F')).toBe('831.6 of 1197 °F·h')
    expect(localise('h 95 W/m²·K', '°F')).toBe('h 95 W/m²·K')
  })

  it('turn both ends, and leave what bears both units', () => {
    expect(localise('15 h 26 min between 5 and 57 °C', '°F')).toBe('15 h 26 min between 41 and 135 °F')
    expect(localise('5 °C (41 °F) or below', '°F')).toBe('41 °F or below')
  })

  it('do not touch times, masses and degrees already in °F', () => {
    const text = 'Add 6 kg ice within 30 min; 135 → 41 °F in 6 h'
    expect(localise(text, '°F')).toBe(text)
  })

  it('keep negative temperatures', () => {
    expect(localise('grows down to -0.4 °C', '°F')).toBe('grows down to 31.3 °F')
  })
})
