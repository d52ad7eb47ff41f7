// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import type { Batch } from './api'
import { LabelButton } from './LabelDialog'

const BATCH = { batch_id: 'b1', code: 'B-7', packs: 4 } as unknown as Batch
const LABEL = {
  code: 'B-7', name: 'Stew', made_at: '2026-12-02T09:30:00Z', use_by: '2026-12-05T09:30:00Z', undated: '',
  keep: ['Keep at or below 3 °C'], allergens: ['milk'], told: [], released: false,
} // prettier-ignore
const SHEETS = [
  { key: 'a4-70x37', paper: 'a4', across: 3, down: 8, width_mm: 70, height_mm: 37, gap_mm: 0 },
  { key: 'roll-62x40', paper: 'roll', across: 1, down: 1, width_mm: 62, height_mm: 40, gap_mm: 0 },
]

function open(label: unknown = LABEL, printed: unknown = 'pdf') {
  const house = server({
    'GET /api/v1/batches/b1/label': label,
    'GET /api/v1/label-sheets': SHEETS,
    'GET /api/v1/batches/b1/labels.pdf': printed,
  })
  drawn(<LabelButton batch={BATCH} />)
  fireEvent.click(screen.getByRole('button', { name: 'Labels' }))
  return house
}
const print = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Print labels' })

beforeEach(() => {
  localStorage.clear()
  URL.createObjectURL = () => 'blob:labels'
  URL.revokeObjectURL = () => undefined
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(() => undefined)
})
afterEach(() => {
  cleanup()
  vi.restoreAllMocks()
  vi.unstubAllGlobals()
})

describe('labels', () => {
  it('show what they will say, and offer one for each pack', async () => {
    open()
    expect(await screen.findByText('Stew')).toBeTruthy()
    expect(screen.getByText(/Use by/)).toBeTruthy()
    expect(screen.getByText(/On hold/)).toBeTruthy()
    expect(screen.getByText('Keep at or below 3 °C')).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('How many').value).toBe('4')
  })

  it('go on the sheet that was used last, from a place that it has', async () => {
    const house = open()
    await screen.findByText('Stew')
    const first = await screen.findByLabelText(/First free place/)
    fireEvent.change(first, { target: { value: '25' } })
    expect(print().disabled).toBe(true)
    fireEvent.change(first, { target: { value: '20' } })
    fireEvent.click(print())
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    const asked = house.of('GET').find((each) => each.path.includes('labels.pdf'))
    expect(asked).toBeTruthy()
    expect(localStorage.getItem('brinefrost.labels')).toBe('a4-70x37')
  })

  it('a roll has no places to choose from', async () => {
    open()
    await screen.findByText('Stew')
    fireEvent.change(await screen.findByLabelText('Sheet or roll'), { target: { value: 'roll-62x40' } })
    expect(screen.queryByLabelText(/First free place/)).toBeNull()
  })

  it('are refused in a sentence where nothing may be kept', async () => {
    open(new Refusal(409, { code: 'refused', sentence: 'B-7 was discarded and gets no label.' }))
    expect(within(await screen.findByRole('alert')).getByText(/gets no label/)).toBeTruthy()
    expect(print().disabled).toBe(true)
  })
})
