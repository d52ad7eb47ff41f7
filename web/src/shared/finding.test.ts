import { describe, expect, it } from 'vitest'

import { fits } from './finding'

describe('what is looked for', () => {
  it('is found by any words in any order, without accents and case', () => {
    expect(fits('Goose-leg confit, kept under fat', 'FAT goose')).toBe(true)
    expect(fits('Crème, baked', 'creme')).toBe(true)
    expect(fits('Char crudo', 'goose')).toBe(false)
    expect(fits('Char crudo', '')).toBe(true)
  })
})
