import { describe, expect, it } from 'vitest'

import { cardRows } from './cardRows'
import type { Column } from './SheetView'

const column = (step: string, line = '', more: object = {}) =>
  ({ step, name: step, line, takes: [], out_of: '', goes_in: [], ...more }) as unknown as Column

describe('the cards in rows', () => {
  it('are one row where there is one line', () => {
    expect(cardRows([column('a'), column('b')]).map((row) => row.line)).toEqual([''])
  })

  it('stand above the line that takes them, with their way drawn to its card', () => {
    const rows = cardRows([
      column('receive'),
      column('melt', 'chocolate', { goes_in: ['Chocolate'] }),
      column('whip', 'whites'),
      column('fold', '', { takes: ['chocolate', 'whites'] }),
    ])
    expect(rows.map((row) => row.line)).toEqual(['chocolate', 'whites', ''])
    expect(rows[0]).toMatchObject({ goesIn: ['Chocolate'], into: 'fold' })
    expect(rows[0]?.via).toEqual([undefined, undefined, 'along', 'turns-down'])
    expect(rows[1]?.via[3]).toBe('joins-down')
    expect(rows[2]?.via.every((via) => via === undefined)).toBe(true)
  })

  it('stand below what they come out of', () => {
    const rows = cardRows([column('trim'), column('oven'), column('stock', 'stock', { out_of: 'trim' })])
    expect(rows.map((row) => row.line)).toEqual(['', 'stock'])
    expect(rows[1]?.via).toEqual(['begins-down', 'along', undefined])
  })
})
