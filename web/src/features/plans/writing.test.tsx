// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import type { Reference } from '../../shared/reference'
import { setUnit } from '../../shared/units'
import { drawn, Refusal, server } from '../../testing'
import type { Plan, Step } from './api'
import { Dish } from './Dish'
import { HazardsTab } from './HazardsTab'
import { StepSheet } from './StepSheet'
import type { Draft } from './useDraft'

const FIELDS = [
  { name: 'bath_c', kind: 'temperature', low: 40, high: 100, show: '', optional: false, step: null, main: true },
  { name: 'packs', kind: 'number', low: 1, high: 500, show: '', optional: false, step: null, main: false },
  { name: 'covered', kind: 'flag', main: false },
]
const REFERENCE = {
  families: [{ key: 'confit', name: 'Confit' }],
  step_kinds: [
    { key: 'bath_cook', fields: FIELDS, blank: { kind: 'bath_cook', bath_c: 63, packs: 6, covered: false } },
    { key: 'cold_keep', fields: [], blank: { kind: 'cold_keep', days: 3 } },
  ],
  trees: [
    { id: 'codex', name: 'Codex', first: 'a', source: { citation: 'Codex' },
      questions: [{ id: 'a', text: 'Is it controlled here?', yes: 'ccp', no: 'not_ccp' }] },
  ],
  catalogue: {
    ingredients: [
      { key: 'thigh', name: 'Chicken thigh', aliases: [], allergens: [] },
      { key: 'cream', name: 'Cream', aliases: [], allergens: ['milk'] },
    ],
  },
} as unknown as Reference // prettier-ignore
const STEPS = [
  { kind: 'bath_cook', id: 'cook', name: 'Bath', bath_c: 63, packs: 6, covered: false },
  { kind: 'cold_keep', id: 'keep', name: 'Keep', days: 3 },
] as unknown as Step[]
const decision = (step: string, yes?: boolean) => ({
  step, tree: 'codex', answers: yes === undefined ? [] : [{ question: 'a', yes, reason: 'Because.' }],
}) // prettier-ignore
const HAZARD = {
  key: 'salmonella', name: 'Salmonella', reason: 'Raw poultry.', significant: true, set_aside_because: '',
  decisions: [decision('cook'), decision('keep', false)],
} // prettier-ignore
const PLAN = {
  name: 'Thigh', guests: 'general', product: '', steps: STEPS, hazards: [HAZARD], controls: [{ step: 'cook' }],
  ingredients: [{ name: 'Chicken thigh', catalogue: 'thigh', allergens: [], made_here: false, enters: '', eaten_at: [] }],
} as unknown as Plan // prettier-ignore

let now: Plan
let chosen: (string | null)[]
/** A part of the plan's page over a draft that keeps what is changed. */
function page(
  part: (draft: Draft) => React.ReactElement,
  plan = PLAN,
  role = 'lead',
  more: object = {},
  manners: object = {},
) {
  chosen = []
  const house = server({
    'GET /api/v1/session': { person: { id: 'p', name: 'I', role }, manners, now: '2026-11-26T09:00:00Z', zone: 'UTC' },
    'POST /api/v1/plans/p1/suggestions': [],
    ...more,
  }) // prettier-ignore
  function Page() {
    const [held, setHeld] = useState(plan)
    now = held
    return part({
      plan: held,
      change: (changed: Partial<Plan> | ((now: Plan) => Partial<Plan>)) =>
        setHeld((before) => ({ ...before, ...(typeof changed === 'function' ? changed(before) : changed) })),
    } as unknown as Draft)
  }
  drawn(<Page />)
  return house
}
const step = (id: string) => (draft: Draft) => {
  const found = draft.plan.steps.find((each) => each.id === id) ?? draft.plan.steps[0]
  return <StepSheet draft={draft} reference={REFERENCE} step={found as Step} onChoose={(next) => chosen.push(next)} />
}
const ids = () => now.steps.map((each) => each.id)

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  setUnit('temperature', '°C')
})

describe('a step', () => {
  it('asks what its kind asks, in the person’s unit, and keeps it in the plan’s', async () => {
    page(step('cook'), PLAN, 'lead', {}, { temperature: '°F' })
    await screen.findByText('Move earlier')
    const bath = screen.getByLabelText<HTMLInputElement>('Bath')
    await waitFor(() => expect(bath.value).toBe('145.4'))
    fireEvent.change(bath, { target: { value: '149' } })
    expect((now.steps[0] as { bath_c?: number }).bath_c).toBe(65)
    fireEvent.click(screen.getByRole('checkbox'))
    expect((now.steps[0] as { covered?: boolean }).covered).toBe(true)
  })

  it('moves, and does not move past an end', async () => {
    page(step('cook'))
    const back = await screen.findByRole<HTMLButtonElement>('button', { name: 'Move earlier' })
    expect(back.disabled).toBe(true)
    fireEvent.click(screen.getByRole('button', { name: 'Move later' }))
    expect(ids()).toEqual(['keep', 'cook'])
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Move later' }).disabled).toBe(true)
  })

  it('that is taken out takes its control and its decisions along, and nothing else', async () => {
    page(step('cook'))
    fireEvent.click(await screen.findByRole('button', { name: 'Remove' }))
    expect(ids()).toEqual(['keep'])
    expect(now.controls).toEqual([])
    expect(now.hazards[0]?.decisions.map((each) => each.step)).toEqual(['keep'])
    expect(chosen).toEqual([null])
  })

  it('that is put in stands behind this one, by a name and an id of its own', async () => {
    page(step('cook'))
    await screen.findByText('Move earlier')
    const add = () => {
      fireEvent.change(screen.getByLabelText('Add a step', { exact: true, selector: 'select' }), {
        target: { value: 'cold_keep' },
      })
      fireEvent.click(screen.getByRole('button', { name: /Add a step/ }))
    }
    add()
    add()
    expect(ids()).toEqual(['cook', 'keep-3', 'keep-2', 'keep'])
    expect(chosen).toEqual(['keep-2', 'keep-3'])
  })

  it('keeps a name: an empty one is not taken', async () => {
    page(step('cook'))
    await screen.findByText('Move earlier')
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: '' } })
    expect(now.steps[0]?.name).toBe('Bath')
  })

  it('is the lead’s: a cook may look', async () => {
    page(step('cook'), PLAN, 'cook')
    expect(screen.queryByRole('button', { name: /Take out/ })).toBeNull()
    expect(screen.getByLabelText<HTMLInputElement>('Bath').disabled).toBe(true)
  })
})

describe('the dish', () => {
  const dish = (draft: Draft) => <Dish draft={draft} reference={REFERENCE} />

  it('takes an ingredient once, with its allergens', async () => {
    page(dish)
    const picker = await screen.findByLabelText('Add an ingredient', { exact: true, selector: 'select' })
    expect(within(picker).queryByRole('option', { name: 'Chicken thigh' })).toBeNull()
    fireEvent.change(picker, { target: { value: 'cream' } })
    fireEvent.click(screen.getByRole('button', { name: /Add an ingredient/ }))
    expect(now.ingredients.at(-1)).toEqual({
      name: 'Cream',
      catalogue: 'cream',
      allergens: ['milk'],
      described: null,
      made_here: false,
      enters: '',
      amount_kg: 0,
      eaten: '',
      eaten_at: [],
    })
  })

  it('says what comes from another batch, who eats it, and lets an ingredient go', async () => {
    page(dish)
    fireEvent.click(await screen.findByRole('checkbox'))
    expect(now.ingredients[0]?.made_here).toBe(true)
    fireEvent.change(screen.getByLabelText('Guests'), { target: { value: 'higher_risk' } })
    expect(now.guests).toBe('higher_risk')
    fireEvent.change(screen.getByLabelText('Family'), { target: { value: 'confit' } })
    expect(now.family).toBe('confit')
    fireEvent.change(screen.getByLabelText('Family'), { target: { value: '' } })
    expect(now.family).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: /Take out/ }))
    expect(now.ingredients).toEqual([])
  })
})

describe('the hazards', () => {
  const tab = (draft: Draft) => <HazardsTab draft={draft} reference={REFERENCE} planId="p1" />

  it('that the process raises are taken over with their reasons', async () => {
    const listeria = { ...HAZARD, key: 'listeria', name: 'Listeria', reason: 'It grows in the cold.', decisions: [] }
    page(tab, PLAN, 'lead', { 'POST /api/v1/plans/p1/suggestions': [listeria] })
    await screen.findByText(/It grows in the cold/)
    const take = screen.getByRole('button', { name: 'Take over the suggested hazards' })
    fireEvent.click(take)
    fireEvent.click(take) // twice is once
    expect(now.hazards.map((each) => each.key)).toEqual(['salmonella', 'listeria'])
  })

  it('are decided question by question, each with its reason', async () => {
    page(tab)
    const yes = await screen.findByRole<HTMLButtonElement>('button', { name: 'Yes' })
    await waitFor(() => expect(yes.disabled).toBe(false)) // a lead is signed in
    fireEvent.click(yes)
    fireEvent.change(screen.getByPlaceholderText('Because'), { target: { value: 'The bath kills it.' } })
    expect(now.hazards[0]?.decisions[0]?.answers).toEqual([
      { question: 'a', yes: true, reason: 'The bath kills it.', by: '', by_step: '' },
    ])
  })

  it('still open are answered as is usual, and what was answered stays', async () => {
    const usual = [{ question: 'a', yes: true, reason: 'As is usual.' }]
    page(tab, PLAN, 'lead', { 'POST /api/v1/plans/p1/advice/salmonella/cook': { answers: { codex: usual } } })
    const button = await screen.findByRole('button', { name: /Answer as is usual here/ })
    expect(button.textContent).toContain('(1)')
    fireEvent.click(button)
    await waitFor(() => expect(now.hazards[0]?.decisions[0]?.answers).toEqual(usual))
    expect(now.hazards[0]?.decisions[1]?.answers).toEqual([{ question: 'a', yes: false, reason: 'Because.' }])
  })

  it('keep what is changed while the usual answers are on their way', async () => {
    const usual = [{ question: 'a', yes: true, reason: 'As is usual.' }]
    page(tab, PLAN, 'lead', { 'POST /api/v1/plans/p1/advice/salmonella/cook': { answers: { codex: usual } } })
    fireEvent.click(await screen.findByRole('button', { name: /Answer as is usual here/ }))
    const [significant] = await screen.findAllByRole('checkbox')
    fireEvent.click(significant as HTMLElement)
    await waitFor(() => expect(now.hazards[0]?.decisions[0]?.answers).toEqual(usual))
    expect(now.hazards[0]?.significant).toBe(false)
  })

  it('stay as they are where the usual answers cannot be had', async () => {
    page(tab, PLAN, 'lead', {
      'POST /api/v1/plans/p1/advice/salmonella/cook': new Refusal(503, { code: 'store_down', sentence: 'The records cannot be reached.' }),
    }) // prettier-ignore
    fireEvent.click(await screen.findByRole('button', { name: /Answer as is usual here/ }))
    expect(await screen.findByText('The records cannot be reached.')).toBeTruthy()
    expect(now.hazards).toEqual(PLAN.hazards)
  })

  it('that are set aside say why', async () => {
    page(tab)
    const [significant] = await screen.findAllByRole('checkbox')
    fireEvent.click(significant as HTMLElement)
    expect(now.hazards[0]?.significant).toBe(false)
    fireEvent.change(screen.getByLabelText('Set aside because'), { target: { value: 'Bought cooked.' } })
    expect(now.hazards[0]?.set_aside_because).toBe('Bought cooked.')
  })
})
