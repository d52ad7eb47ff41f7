import { expect, it } from 'vitest'

import { LEAST_LETTERS, lettersOf } from './reasons'

it.each([
  ['', 0],
  ['....................', 0],
  ['12 345', 0],
  ['forgot', 6],
  ['Le cœur à 63 °C', 8],
  ['核心温度已达六十三度', 20],
])('“%s” has %i letters', (text, letters) => expect(lettersOf(text)).toBe(letters))

it('is as short in Chinese as it is said there', () =>
  expect(lettersOf('冷却机坏了，改用冰水冷却。')).toBeGreaterThanOrEqual(LEAST_LETTERS))
