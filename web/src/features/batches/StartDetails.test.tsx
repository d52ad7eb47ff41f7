// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { StartBatchButton } from './StartBatch'
import { type Offer, type PartChoice, PartsInput } from './StartDetails'

const SIGNED = { version: 2, signed_by: 'Ilse', signed_at: '2026-11-01T08:00:00Z' }
const PLANS = [
  { plan_id: 'p1', name: 'Thigh', version: SIGNED },
  { plan_id: 'p2', name: 'Stew', version: SIGNED },
  { plan_id: 'p3', name: 'Draft alone', version: null },
  { plan_id: 'p4', name: 'Put away', version: SIGNED, standing: 'archived' },
]
const OFFER = {
  thickness_m: 0.028, start_c: 4, portion_kg: 1.2, made_here: ['Goose fat'], ingredients: ['Goose leg', 'Goose fat'],
  batches: [
    { batch: 'b-done', code: 'G-1', name: 'Goose', done: true, gone_by: '2026-11-30T10:00:00Z' },
    { batch: 'b-open', code: 'G-2', name: 'Goose', done: false, gone_by: null },
  ],
} as unknown as Offer // prettier-ignore

function kitchen(fit: object, started: unknown = { batch_id: 'b9', code: 'S-9' }) {
  return server({
    'GET /api/v1/plans': { items: PLANS, next: null },
    'GET /api/v1/plans/p1/start': OFFER,
    'GET /api/v1/plans/p2/start': { ...OFFER, thickness_m: null, portion_kg: null },
    'POST /api/v1/plans/p1/fit': { process: [], ...fit },
    'POST /api/v1/batches': started,
  })
}

async function open() {
  drawn(<StartBatchButton />)
  fireEvent.click(screen.getByRole('button', { name: 'Start a batch' }))
  fireEvent.click(await screen.findByRole('radio', { name: /Thigh/ }), { detail: 1 })
  await screen.findByLabelText(/thickest/i)
}
const start = () => screen.getAllByRole<HTMLButtonElement>('button', { name: 'Start a batch' }).at(-1)!
const begun = (house: ReturnType<typeof kitchen>) =>
  house.asked.filter((each) => each.method === 'POST' && each.path === '/api/v1/batches').map((each) => each.body)

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('starting a batch', () => {
  it('offers signed plans alone, and says what it comes to', async () => {
    kitchen({ state: 'as_planned', sentence: '' })
    await open()
    fireEvent.click(screen.getByRole('button', { name: 'Another dish' }))
    expect(screen.getAllByRole('radio')).toHaveLength(2)
    expect(screen.queryByRole('radio', { name: /Draft alone|Put away/ })).toBeNull()
    expect(await screen.findByText(/7\.2 kg/)).toBeTruthy()
  })

  it('lets the keys of a keyboard walk the dishes: each is chosen, and the list stays', async () => {
    kitchen({ state: 'as_planned', sentence: '' })
    drawn(<StartBatchButton />)
    fireEvent.click(screen.getByRole('button', { name: 'Start a batch' }))
    fireEvent.click(await screen.findByRole('radio', { name: /Thigh/ }), { detail: 0 }) // as an arrow key does
    expect(await screen.findByLabelText(/thickest/i)).toBeTruthy()
    expect(screen.getAllByRole('radio')).toHaveLength(2)
  })

  it('sends packs, lots that were filled in, and today’s piece in metres', async () => {
    const house = kitchen({ state: 'longer', sentence: 'It needs 12 min more.' })
    await open()
    fireEvent.change(screen.getByLabelText(/thickest/i), { target: { value: '31' } })
    expect(await screen.findByText('It needs 12 min more.')).toBeTruthy()
    fireEvent.change(screen.getByLabelText('Goose leg'), { target: { value: ' L-207 ' } })
    fireEvent.change(screen.getByLabelText('Goose fat'), { target: { value: '  ' } })
    fireEvent.click(start())
    await waitFor(() => expect(begun(house)).toHaveLength(1))
    expect(begun(house)[0]).toEqual({
      plan_id: 'p1', packs: 6, at: null, confirmed: false, thickness_m: 0.031, start_c: null, parts: [],
      lots: [{ ingredient: 'Goose leg', lot: 'L-207' }],
    }) // prettier-ignore
  })

  it('offers what is usual on this day, then what was begun last; typing finds', async () => {
    kitchen({ state: 'as_planned', sentence: '' })
    const begun = (code: string, day: number) => ({ code, started_at: `2026-11-${day}T08:00:00Z` })
    server({
      'GET /api/v1/plans': {
        items: [
          { plan_id: 'a', name: 'Broth', version: SIGNED },
          { plan_id: 'b', name: 'Confit', version: SIGNED, last_batch: begun('B-1', 10) },
          { plan_id: 'c', name: 'Stew', version: SIGNED, last_batch: begun('B-2', 20) },
          { plan_id: 'd', name: 'Crudo', version: SIGNED, likely: true, last_batch: begun('B-0', 15) },
        ],
        next: null,
      },
    })
    drawn(<StartBatchButton />)
    fireEvent.click(screen.getByRole('button', { name: 'Start a batch' }))
    await screen.findByText('Usual on this day')
    const offered = () => screen.getAllByRole('radio').map((each) => each.closest('label')?.textContent?.slice(0, 4))
    expect(offered()).toEqual(['Crud', 'Stew', 'Conf', 'Brot'])
    fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'con' } })
    expect(offered()).toEqual(['Conf'])
    expect(screen.getByRole<HTMLInputElement>('radio').checked).toBe(true)
    fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'zzz' } })
    expect(screen.getByText('No matches.')).toBeTruthy()
  })

  it('is not begun with a piece for which the plan fails', async () => {
    kitchen({ state: 'fails', sentence: 'No time in this bath meets it.' })
    await open()
    fireEvent.change(screen.getByLabelText(/thickest/i), { target: { value: '90' } })
    await screen.findByText('No time in this bath meets it.')
    expect(start().disabled).toBe(true)
  })

  it('a time that is none is said before anything is sent; one that surprises is asked about', async () => {
    let first = true
    const house = kitchen({ state: 'as_planned', sentence: '' }, () => {
      if (!first) return { batch_id: 'b9', code: 'S-9' }
      first = false
      return new Refusal(409, { code: 'ask_first', sentence: 'That was fourteen hours ago.' })
    })
    await open()
    const clock = screen.getByPlaceholderText('now')
    fireEvent.change(clock, { target: { value: '25:99' } })
    fireEvent.click(start())
    expect(begun(house)).toHaveLength(0)
    expect(screen.getByRole('alert')).toBeTruthy()
    fireEvent.change(clock, { target: { value: '' } })
    fireEvent.click(start())
    await screen.findByText('That was fourteen hours ago.')
    fireEvent.click(screen.getByRole('button', { name: /right/i }))
    await waitFor(() => expect(begun(house)).toHaveLength(2))
    expect(begun(house).map((each) => (each as { confirmed: boolean }).confirmed)).toEqual([false, true])
  })

  it('another plan asks anew: nothing typed for the first is sent with it', async () => {
    const house = kitchen({ state: 'as_planned', sentence: '' })
    await open()
    fireEvent.change(screen.getByLabelText(/thickest/i), { target: { value: '31' } })
    fireEvent.click(screen.getByRole('button', { name: 'Another dish' }))
    fireEvent.click(screen.getByRole('radio', { name: /Stew/ }), { detail: 1 })
    await waitFor(() => expect(screen.queryByLabelText(/thickest/i)).toBeNull())
    await waitFor(() => expect(start().disabled).toBe(false))
    fireEvent.click(start())
    await waitFor(() => expect(begun(house)).toHaveLength(1))
    expect(begun(house)[0]).toMatchObject({ plan_id: 'p2', thickness_m: null, parts: [] })
  })
})

describe('parts', () => {
  let kept: PartChoice[] = []
  function Held() {
    const [parts, setParts] = useState<PartChoice[]>([])
    kept = parts
    return <PartsInput offer={OFFER} parts={parts} onChange={setParts} />
  }

  it('of food come of what is done alone, by-products of anything', () => {
    drawn(<Held />)
    fireEvent.click(screen.getByRole('button', { name: /part|batch/i }))
    expect(kept).toEqual([{ batch: 'b-done', what: 'trim' }])
    const [what, of] = screen.getAllByRole<HTMLSelectElement>('combobox')
    expect([...of!.options].map((each) => each.value)).toEqual(['b-done', 'b-open'])
    fireEvent.change(of!, { target: { value: 'b-open' } })
    fireEvent.change(what!, { target: { value: 'food' } })
    expect(kept).toEqual([{ batch: 'b-done', what: 'food' }]) // never food of what still runs
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }))
    expect(kept).toEqual([])
  })
})
