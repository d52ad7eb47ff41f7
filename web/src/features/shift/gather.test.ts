import { describe, expect, it } from 'vitest'

import { gathered } from './gather'

describe('marks on a lane', () => {
  it('stand alone where there is room', () => {
    const marks = [
      { id: 'a', x: 10, state: 'done' },
      { id: 'b', x: 40, state: 'due' },
    ]
    expect(gathered(marks).map(({ id, count }) => [id, count])).toEqual([
      ['a', 1],
      ['b', 1],
    ])
  })

  it('become one with the state that asks most', () => {
    const marks = ['done', 'late', 'upcoming'].map((state, i) => ({ id: state, x: 100 + i * 4, state }))
    expect(gathered(marks)).toEqual([{ id: 'done', x: 100, state: 'late', count: 3 }])
  })

  it('leave room for the number beside them', () => {
    const at = (x: number) => ({ id: String(x), x, state: 'done' })
    expect(gathered([at(0), at(5), at(20), at(31)]).map(({ x, count }) => [x, count])).toEqual([
      [0, 3],
      [31, 1],
    ])
  })

  it('may come in any order', () => {
    expect(gathered([30, 0].map((x) => ({ id: String(x), x, state: 'odd' }))).map(({ x }) => x)).toEqual([0, 30])
  })
})
