import { describe, expect, it } from 'vitest'

import type { Plan } from './api'
import { merged } from './merging'

const base = {
  name: 'Thigh',
  product: '',
  rule_set: 'us',
  guests: 'general',
  ingredients: [{ name: 'Salt', catalogue: 'salt', allergens: [] }],
  steps: [
    { id: 'cook', kind: 'cook', name: 'Bath', bath_c: 63, duration_s: 7200 },
    { id: 'chill', kind: 'chill', name: 'Slurry', ice_kg: 12 },
  ],
  hazards: [],
  controls: [],
} as unknown as Plan

const step = (plan: Plan, id: string, change: object) => ({
  ...plan,
  steps: plan.steps.map((each) => (each.id === id ? { ...each, ...change } : each)),
})

describe('two editors of one plan', () => {
  it('both keep what they wrote in different fields, even of one step', () => {
    const { plan, taken, clashes } = merged(
      base,
      step(base, 'cook', { bath_c: 65 }),
      step(step(base, 'cook', { duration_s: 5400 }), 'chill', { ice_kg: 20 }),
    )
    expect(plan.steps).toMatchObject([{ bath_c: 65, duration_s: 5400 }, { ice_kg: 20 }])
    expect(taken).toEqual(['steps/cook/duration_s', 'steps/chill/ice_kg'])
    expect(clashes).toEqual([])
  })
  it('are told where they wrote differently in one field, and mine stands', () => {
    const { plan, clashes } = merged(base, step(base, 'cook', { bath_c: 65 }), step(base, 'cook', { bath_c: 60 }))
    expect(plan.steps[0]).toMatchObject({ bath_c: 65 })
    expect(clashes).toEqual(['steps/cook/bath_c'])
  })
  it('may write the same', () => {
    const { clashes, taken } = merged(base, step(base, 'cook', { bath_c: 65 }), step(base, 'cook', { bath_c: 65 }))
    expect([clashes, taken]).toEqual([[], []])
  })
  it('add and take out steps beside one another', () => {
    const added = { id: 'keep', kind: 'keep', name: 'Keep' } as never
    const { plan, taken } = merged(base, step(base, 'cook', { bath_c: 65 }), {
      ...base,
      steps: [...base.steps.filter((each) => each.id !== 'chill'), added],
    })
    expect(plan.steps.map((each) => each.id)).toEqual(['cook', 'keep'])
    expect(taken).toContain('steps/keep')
    expect(taken).toContain('steps/chill')
  })
  it('lose nothing where one takes out what the other changes', () => {
    const out = { ...base, steps: base.steps.filter((each) => each.id !== 'chill') }
    const { plan, clashes } = merged(base, out, step(base, 'chill', { ice_kg: 20 }))
    expect(plan.steps.map((each) => each.id)).toContain('chill')
    expect(clashes).toEqual(['steps/chill'])
  })
  it('keep my order when I moved a step', () => {
    const turned = { ...base, steps: [...base.steps].reverse() }
    const { plan } = merged(base, turned, step(base, 'cook', { bath_c: 60 }))
    expect(plan.steps.map((each) => each.id)).toEqual(['chill', 'cook'])
    expect(plan.steps[1]).toMatchObject({ bath_c: 60 })
  })
})
