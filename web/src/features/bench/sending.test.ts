import { describe, expect, it } from 'vitest'

import { hasBath, sendable, withBath } from './sending'

const QUESTION = {
  medium: 'bath',
  programme: 'steady',
  shape: 'slab',
  thickness_m: 0.03,
  start_c: 5,
  surroundings_c: 62,
  duration_s: 9000,
}

describe('sending into a plan', () => {
  it('takes a piece of any shape in a steady bath and says why not else', () => {
    expect(sendable(QUESTION)).toBeNull()
    expect(sendable({ ...QUESTION, medium: 'steam' })).toBe('medium')
    expect(sendable({ ...QUESTION, programme: 'fading' })).toBe('programme')
    expect(sendable({ ...QUESTION, shape: 'cylinder' })).toBeNull()
  })

  it('knows a plan with nowhere to send to', () => {
    expect(hasBath({ steps: [{ kind: 'seal' }] } as never)).toBe(false)
    expect(hasBath({ steps: [{ kind: 'seal' }, { kind: 'bath', bath_c: 60, thickness_m: 0.03 }] } as never)).toBe(true)
  })

  it('sends the sides of a block with it', () => {
    const sent = withBath({ steps: [{ kind: 'bath', id: 'cook', bath_c: 60, thickness_m: 0.02 }] } as never, {
      ...QUESTION,
      shape: 'brick',
      length_m: 0.2,
      width_m: 0.12,
    }) // prettier-ignore
    expect(sent.steps[0]).toMatchObject({ shape: 'brick', length_m: 0.2, width_m: 0.12, thickness_m: 0.03 })
  })

  it('changes the bath step and nothing else', () => {
    const plan = {
      name: 'x',
      steps: [
        { kind: 'seal', id: 'seal' },
        { kind: 'bath', id: 'cook', name: 'Bath', water_kg: 40, thickness_m: 0.02, bath_c: 57 },
      ],
    }
    const sent = withBath(plan as never, QUESTION) as unknown as typeof plan
    expect(sent.steps[0]).toEqual(plan.steps[0])
    expect(sent.steps[1]).toEqual({
      kind: 'bath',
      id: 'cook',
      name: 'Bath',
      water_kg: 40,
      thickness_m: 0.03,
      shape: 'slab',
      start_c: 5,
      bath_c: 62,
      duration_s: 9000,
    })
  })
})
