import { describe, expect, it } from 'vitest'

import type { Plan } from './api'
import { stepped, type Trail } from './trail'

const plan = (name: string) => ({ name }) as Plan
const START: Trail = { past: [], future: [], at: 0 }

describe('the way back', () => {
  it('takes what is typed in one breath as one step', () => {
    const typed = stepped(stepped(START, plan('a'), 1000), plan('ab'), 1500)
    expect(typed.past.map((each) => each.name)).toEqual(['a'])
    expect(stepped(typed, plan('abc'), 9000).past.map((each) => each.name)).toEqual(['a', 'abc'])
  })

  it('forgets what was taken back once something else is done', () => {
    const back: Trail = { past: [plan('a')], future: [plan('c')], at: 1000 }
    expect(stepped(back, plan('b'), 1100)).toEqual({ past: [plan('a'), plan('b')], future: [], at: 1100 })
  })

  it('does not grow for ever', () => {
    let trail = START
    for (let n = 0; n < 150; n += 1) trail = stepped(trail, plan(String(n)), n * 5000)
    expect(trail.past).toHaveLength(100)
    expect(trail.past[0]?.name).toBe('50')
  })
})
