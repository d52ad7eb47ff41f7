import { beforeEach, describe, expect, it, vi } from 'vitest'

import { celsiusFrom, shown, temperature } from './units'

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
