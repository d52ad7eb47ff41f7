// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Route, Routes, useLocation } from 'react-router'

import { drawn, Refusal, server } from '../../../testing'
import { withAnswers, withOption } from './answering'
import type { Plan, Question } from './api'
import { RecipePage } from './RecipePage'

const STEPS = [
  { kind: 'receive', id: 'receive', name: 'Receive' },
  { kind: 'heat_in', id: 'heat-in', name: 'Roast', thickness_m: 0.06, duration_s: 3600 },
  { kind: 'chill_air', id: 'chill-air', name: 'Chill', thickness_m: 0.06 },
]
const ITEM = { allergens: [], made_here: false, amount_kg: 0.3, eaten: '', eaten_at: [] }
const PLAN = {
  name: 'Leg of lamb', rule_set: 'uk', steps: STEPS, hazards: [], controls: [],
  ingredients: [{ ...ITEM, name: 'Onion', catalogue: 'onion', enters: 'heat-in' }],
} as unknown as Plan // prettier-ignore
const thick = (value: number) => ({
  words: `${value * 1000} mm`, enters: '',
  settings: { 'heat-in': { thickness_m: value }, 'chill-air': { thickness_m: value } },
}) // prettier-ignore
const QUESTIONS = [
  { step: 'heat-in', words: 'How thick?', ingredient: '', options: [thick(0.06), thick(0.04)] },
  {
    step: 'heat-in', words: 'Where does Onion go in?', ingredient: 'onion',
    options: [{ words: 'Roast', enters: 'heat-in', settings: {} }, { words: 'Receive', enters: 'receive', settings: {} }],
  },
] as unknown as Question[] // prettier-ignore
const READING = {
  language: 'en', plan: PLAN, questions: QUESTIONS, unread: ['Whistle a tune.'],
  ingredients: [
    { text: '300 g onions', name: 'Onion', catalogue: 'onion', kg: 0.3, assumed: '' },
    { text: 'moon dust', name: 'moon dust', catalogue: null, kg: 0, assumed: '' },
  ],
  steps: [{ step: 'heat-in', text: 'Roast it.', assumed: ['1 h, as is usual'] }],
} // prettier-ignore
const SESSION = {
  person: { id: 'p', name: 'Ilse', role: 'lead' },
  manners: {},
  rule_set: 'uk',
  now: '2026-11-26T08:00:00Z',
  zone: 'UTC',
}

function Where() {
  return <p>{useLocation().pathname}</p>
}

function page(reading: unknown = READING, proof?: unknown) {
  const house = server({
    'GET /api/v1/session': SESSION,
    'POST /api/v1/recipes': reading,
    'POST /api/v1/proofs': ({ body }: { body: unknown }) => {
      if (proof) return proof
      const thin = (body as { steps: { thickness_m?: number }[] }).steps[1]?.thickness_m === 0.04
      return { state: thin ? 'meets' : 'fails', sentence: thin ? 'It should meet.' : 'It does not meet.' }
    },
    'POST /api/v1/plans': { plan_id: 'made' },
  })
  drawn(
    <Routes>
      <Route path="/plans/recipe" element={<RecipePage />} />
      <Route path="*" element={<Where />} />
    </Routes>,
    '/plans/recipe',
  )
  return house
}

async function type(text: string) {
  const field = screen.getByRole<HTMLTextAreaElement>('textbox')
  await waitFor(() => expect(field.disabled).toBe(false))
  fireEvent.change(field, { target: { value: text } })
}

beforeEach(() => sessionStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a recipe', () => {
  it('says what was understood, assumed and not read, and what it comes to', async () => {
    page()
    await type('300 g onions')
    expect(await screen.findByText('It does not meet.')).toBeTruthy()
    expect(screen.getByText('300 g')).toBeTruthy()
    expect(screen.getByText(/Not in the catalogue/)).toBeTruthy()
    expect(screen.getByText(/1 h, as is usual/)).toBeTruthy()
    expect(screen.getByText(/Not read.*Whistle/)).toBeTruthy()
  })

  it('asks one thing at a time, shows what each answer would come to, and begins the plan as answered', async () => {
    const house = page()
    await type('300 g onions')
    const thin = await screen.findByRole('button', { name: /40 mm.*should meet/ })
    expect(screen.queryByText('Where does Onion go in?')).toBeNull()
    fireEvent.click(thin)
    expect(await screen.findByText('It should meet.')).toBeTruthy()
    expect(screen.getByText('Where does Onion go in?')).toBeTruthy()
    fireEvent.click(screen.getByRole('button', { name: 'Previous' }))
    expect(screen.getByRole('button', { name: /40 mm/ }).getAttribute('aria-pressed')).toBe('true')
    fireEvent.click(screen.getByRole('button', { name: 'Create plan' }))
    expect(await screen.findByText('/plans/made')).toBeTruthy()
    const sent = house.of('POST').find((each) => each.path === '/api/v1/plans')?.body as { document: Plan }
    expect(sent.document.steps?.map((step) => (step as { thickness_m?: number }).thickness_m)).toEqual([
      undefined,
      0.04,
      0.04,
    ])
    expect(sessionStorage.getItem('brinefrost.recipe')).toBeNull()
  })

  it('keeps what was answered while the text is typed on', async () => {
    page()
    await type('300 g onions')
    fireEvent.click(await screen.findByRole('button', { name: /40 mm/ }))
    expect(await screen.findByText('It should meet.')).toBeTruthy()
    await type('300 g onions\nA last line.')
    await waitFor(() => expect(screen.getByRole<HTMLTextAreaElement>('textbox').value).toContain('last line'))
    fireEvent.click(await screen.findByRole('button', { name: 'Previous' }))
    expect(screen.getByRole('button', { name: /40 mm/ }).getAttribute('aria-pressed')).toBe('true')
    expect(screen.getByText('It should meet.')).toBeTruthy()
  })

  it('whose proof is refused says so, and does not wait for ever', async () => {
    page(READING, new Refusal(409, { code: 'refused', sentence: 'Too many joins.' }))
    await type('300 g onions')
    expect(within(await screen.findByRole('alert')).getByText(/Too many joins/)).toBeTruthy()
  })

  it('that cannot be read says why, and keeps what was typed', async () => {
    page(new Refusal(409, { code: 'refused', sentence: 'No step was found in this text.' }))
    await type('Hello')
    expect(within(await screen.findByRole('alert')).getByText(/No step was found/)).toBeTruthy()
    expect(sessionStorage.getItem('brinefrost.recipe')).toBe('Hello')
  })
})

describe('answers', () => {
  it('give every step their settings, or an ingredient its place', () => {
    const [first, place] = QUESTIONS as [Question, Question]
    expect(withOption(PLAN, first, 1).steps?.map((step) => (step as { thickness_m?: number }).thickness_m)).toEqual([
      undefined,
      0.04,
      0.04,
    ])
    expect(withOption(PLAN, place, 1).ingredients?.[0]?.enters).toBe('receive')
    expect(withAnswers(PLAN, QUESTIONS, {})).toEqual(PLAN)
  })
})
