// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { drawn, server } from '../../testing'
import { Amounts } from './Amounts'
import type { Batch } from './api'

const item = (name: string, amount_kg: number) => ({ name, amount_kg })
const batch = (...ingredients: object[]) => ({ batch_id: 'b1', plan: { ingredients } }) as unknown as Batch
const line = (name: string, kg: number, too_coarse = false) => ({
  name, step: '', kg, shown_kg: kg, share: 0.5, error: too_coarse ? 0.14 : 0.0125, too_coarse,
}) // prettier-ignore
const AMOUNTS = {
  times: 1, total_kg: 2, step_g: 1, weighed: [line('Beef', 2), line('Curing salt', 0.004, true)], unsaid: ['Bay'],
} // prettier-ignore

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('lists what to weigh, how far the scale may be off, and what nobody wrote an amount of', async () => {
  server({ 'GET /api/v1/batches/b1/amounts': AMOUNTS })
  drawn(<Amounts batch={batch(item('Beef', 2), item('Curing salt', 0.005), item('Bay', 0))} />)
  expect(await screen.findByText('2 kg')).toBeTruthy()
  expect(screen.getByText('4 g')).toBeTruthy()
  expect(screen.getByText(/14 %: use a finer scale/)).toBeTruthy()
  expect(screen.getByText('± 1.3 %')).toBeTruthy()
  expect(screen.getByText(/No amount in the plan: Bay/)).toBeTruthy()
})

it('remembers the scale that stands here', async () => {
  server({ 'GET /api/v1/batches/b1/amounts': AMOUNTS })
  drawn(<Amounts batch={batch(item('Beef', 2))} />)
  fireEvent.change(await screen.findByLabelText(/scale shows/), { target: { value: '0.1' } })
  await waitFor(() => expect(localStorage.getItem('brinefrost.scale')).toBe('0.1'))
})

it('says nothing of a plan without amounts', () => {
  server({})
  drawn(<Amounts batch={batch(item('Beef', 0))} />)
  expect(screen.queryByText('What to weigh')).toBeNull()
})
