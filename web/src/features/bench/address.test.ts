import { describe, expect, it } from 'vitest'

import { applies } from '../../shared/applies'
import { addressOf, questionFrom } from './address'
import type { Family } from './api'

const field = (name: string, kind: string) => ({
  name,
  kind,
  show: '',
  options: [],
  columns: [],
  optional: true,
  main: true,
  only: {},
})
const family = {
  key: 'heat',
  fields: [
    field('thickness_m', 'length'),
    field('medium', 'choice'),
    field('stirred', 'flag'),
    field('later', 'rows'),
    field('made_on', 'day'),
  ],
  presets: [
    {
      key: 'a',
      words: 'a',
      question: { thickness_m: 0.05, medium: 'bath', stirred: false, later: [], made_on: '2026-11-20' },
    },
    {
      key: 'b',
      words: 'b',
      question: { thickness_m: 0.02, medium: 'steam', stirred: true, later: [], made_on: '2026-11-20' },
    },
  ],
} as unknown as Family

describe('a question in the address', () => {
  it('says only what was changed', () => {
    expect(addressOf(family, 0, { ...family.presets[0]?.question })).toBe('')
    expect(addressOf(family, 1, { ...family.presets[1]?.question, thickness_m: 0.03 })).toBe('?p=2&thickness_m=0.03')
  })

  it('comes back as it went', () => {
    const question = {
      thickness_m: null,
      medium: 'fan_oven',
      stirred: true,
      later: [{ medium: 'bench', duration_s: 60 }],
      made_on: '2026-11-22',
    }
    const back = questionFrom(family, new URLSearchParams(addressOf(family, 1, question)))
    expect(back).toEqual({ preset: 1, question })
  })

  it('leaves out what does not parse', () => {
    const back = questionFrom(family, new URLSearchParams('p=9&thickness_m=thick&later=7&weather=fine&stirred=1'))
    expect(back).toEqual({ preset: 0, question: family.presets[0]?.question })
  })
})

describe('a field', () => {
  it('belongs where its choice is made', () => {
    expect(applies({}, {})).toBe(true)
    expect(applies({ medium: ['bath'] }, { medium: 'bath' })).toBe(true)
    expect(applies({ medium: ['bath'] }, { medium: 'steam' })).toBe(false)
  })
})
