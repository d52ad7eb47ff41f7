import { describe, expect, it } from 'vitest'

import { questionFrom } from './address'
import type { Family } from './api'
import { benchAddress } from '../../shared/parts/BenchLinks'

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
  key: 'fit',
  fields: [
    field('thickness_m', 'length'),
    field('medium', 'choice'),
    field('stirred', 'flag'),
    field('readings', 'rows'),
    field('wanted_c', 'temperature'),
  ],
  presets: [
    {
      key: 'a',
      words: 'a',
      question: { thickness_m: 0.05, medium: 'blast', stirred: true, readings: [{ time_s: 1 }], wanted_c: 3 },
    },
  ],
} as unknown as Family

describe('a question from elsewhere', () => {
  it('arrives on its page whole, whatever the page opens on', () => {
    const question = {
      thickness_m: 0.028,
      medium: 'slurry',
      stirred: false,
      readings: [{ time_s: 600, core_c: 41.5 }],
      wanted_c: null,
    }
    const address = benchAddress({ family: 'fit', question })
    expect(address.startsWith('/bench/fit?')).toBe(true)
    expect(questionFrom(family, new URL(address, 'http://127.0.0.1').searchParams)).toEqual({ preset: 0, question })
  })
})
