import { describe, expect, it } from 'vitest'

import { found, rankOf } from './finding'

const FOODS = ['Boiled potato', 'Salt beef', 'Salt', 'Garlic in oil', 'Oil, rapeseed', 'Egg, whole']
const names = (typed: string) =>
  found(
    FOODS,
    typed,
    (food) => food,
    () => '',
  ).shown

describe('finding', () => {
  it('puts the whole name before a name that begins so', () => {
    expect(names('salt')[0]).toBe('Salt')
  })

  it('puts a word before a piece of one', () => {
    const hits = names('oil')
    expect(hits[0]).toBe('Oil, rapeseed')
    expect(hits.indexOf('Boiled potato')).not.toBe(0)
  })

  it('ranks a piece of a word last', () => {
    expect(rankOf('Boiled potato', 'oil')).toBeGreaterThan(rankOf('Garlic in oil', 'oil'))
  })

  it('is sure of the very name alone, or of the only one', () => {
    const all = (typed: string) =>
      found(
        FOODS,
        typed,
        (food) => food,
        () => '',
      ).sure
    expect(all('salt')).toBe('Salt')
    expect(all('potato')).toBe('Boiled potato')
    expect(all('sal')).toBeNull()
  })
})
