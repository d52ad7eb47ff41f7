import { describe, expect, it } from 'vitest'

import { moved, placed } from './moving'

const steps = ['a', 'b', 'c', 'd'].map((id) => ({ id }))
const ids = (found: { id: string }[]) => found.map((step) => step.id).join('')

describe('a step', () => {
  it('moves on and back, and stays where there is no further', () => {
    expect(ids(moved(steps, 'b', 1))).toBe('acbd')
    expect(ids(moved(steps, 'b', -1))).toBe('bacd')
    expect(ids(moved(steps, 'a', -1))).toBe('abcd')
    expect(ids(moved(steps, 'nobody', 1))).toBe('abcd')
  })
  it('is dropped where another stands', () => {
    expect(ids(placed(steps, 'a', 'c'))).toBe('bcad')
    expect(ids(placed(steps, 'd', 'b'))).toBe('adbc')
    expect(ids(placed(steps, 'd', 'nobody'))).toBe('abcd')
  })
})
