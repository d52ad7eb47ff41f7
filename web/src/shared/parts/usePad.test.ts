import { describe, expect, it } from 'vitest'

import { pressed, typedOf } from './usePad'

const after = (keys: string) => [...keys].reduce(pressed, '')

describe('the pad', () => {
  it('makes a number of its keys', () => {
    expect(after('62.8')).toBe('62.8')
    expect(after('.5')).toBe('0.5')
    expect(after('6.2.8')).toBe('6.28') // one point
    expect(after('123456789')).toBe('1234567')
  })

  it('turns the sign, wherever it is pressed', () => {
    expect(after('−18')).toBe('−18')
    expect(after('18−')).toBe('−18')
    expect(after('−18−')).toBe('18')
  })

  it('keeps of a pasted text what belongs to a number', () => {
    expect(typedOf('-18,5 °C')).toBe('−18,5')
    expect(typedOf('about 4')).toBe('4')
    expect(typedOf('1234567890')).toBe('12345678')
  })
})
