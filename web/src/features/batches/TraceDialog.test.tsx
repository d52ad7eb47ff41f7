// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import type { Batch } from './api'
import { TraceDialog } from './TraceDialog'

const BLOCKS = [
  { step: 'cook', name: 'Bath', started: '2026-11-26T08:00:00Z', takes: 'core' },
  { step: 'sour', name: 'Souring', started: '2026-11-26T08:00:00Z', takes: 'ph' },
  { step: 'keep', name: 'Keep', started: null, takes: 'air' },
  { step: 'mince', name: 'Mince', started: '2026-11-26T07:00:00Z', takes: null },
]
const KIT = [
  { id: 'p2', name: 'Probe 2', kind: 'probe', quantities: ['core', 'air'], uncertainty: 0.5 },
  { id: 'l7', name: 'Logger L-07', kind: 'logger', quantities: ['core', 'air'], uncertainty: 0.4 },
  { id: 'm1', name: 'pH meter', kind: 'meter', quantities: ['ph'], uncertainty: 0.05 },
]
const CHANNEL = { name: 'T1', quantity: 'core', unit: '°C', values: [60, 61.5, 63], times_s: [0, 60, 120] }
const TRACE = {
  channels: [CHANNEL], first_s: 1_764_144_000, last_s: 1_764_147_600, interval_s: 60, notes: ['Line 7 was no reading.'],
  assumptions: [
    { about: 'dates', certain: false, sentence: '03/04 was read as 3 April.' },
    { about: 'units', certain: true, sentence: 'Degrees are Celsius.' },
  ],
} // prettier-ignore
const QUANTITIES = [
  { key: 'core', unit: '°C', kind: 'temperature', kit: ['probe'] },
  { key: 'ph', unit: 'pH', kind: 'ph', kit: ['meter'] },
]

let house: ReturnType<typeof server>
let attach: unknown
let role: string
const file = new File(['time;core\n'], 'bath.csv')
const onClose = vi.fn()

beforeEach(() => {
  onClose.mockClear()
  attach = { batch_id: 'b1' }
  role = 'cook'
  house = server({
    'GET /api/v1/session': () => ({
      person: { id: 'p', name: 'T', role }, manners: {}, now: '2026-11-26T09:00:00Z', zone: 'UTC',
    }),
    'GET /api/v1/reference': { quantities: QUANTITIES },
    'GET /api/v1/instruments': KIT,
    'POST /api/v1/traces/preview': () => ({ trace: TRACE }),
    'POST /api/v1/batches/b1/traces': () => attach,
  }) // prettier-ignore
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

async function dialog(traces: object[] = []) {
  Element.prototype.scrollIntoView = vi.fn()
  drawn(<TraceDialog batch={{ batch_id: 'b1', blocks: BLOCKS, traces } as unknown as Batch} file={file} onClose={onClose} />) // prettier-ignore
  await screen.findByText('03/04 was read as 3 April.')
  await screen.findByText(/Probe 2|pH meter/)
}
const options = (label: string) =>
  within(screen.getByLabelText(label)).getAllByRole('option').map((each) => each.textContent) // prettier-ignore
const go = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Attach to/ })
const sent = () => house.asked.filter((each) => each.path.endsWith('/batches/b1/traces'))

describe('a logger file', () => {
  it('says how it was read, and what of that is to be looked at', async () => {
    await dialog()
    expect(screen.getByText('03/04 was read as 3 April.').textContent).toContain('check this')
    expect(screen.getByText('Degrees are Celsius.').textContent).not.toContain('check this')
    expect(screen.getByText('Line 7 was no reading.')).toBeTruthy()
    expect(screen.getByText(/every 1 min, 3 readings/)).toBeTruthy()
    expect(screen.getByText(/^60.*to 63/).textContent).toBe('60.0 °C to 63.0 °C')
  })

  it('goes to a step that has begun and takes one, the first that has none yet', async () => {
    await dialog()
    expect(options('For the step')).toEqual(['Bath', 'Souring'])
    expect(screen.getByLabelText<HTMLSelectElement>('For the step').value).toBe('cook')
    cleanup()
    await dialog([{ step: 'cook' }])
    expect(screen.getByLabelText<HTMLSelectElement>('For the step').value).toBe('sour')
  })

  it('bears the doubt of what can have written it, in its own unit', async () => {
    await dialog()
    await waitFor(() => expect(options('Logger')).toEqual(['Probe 2 ±0.5 °C', 'Logger L-07 ±0.4 °C']))
    expect(screen.getByLabelText<HTMLSelectElement>('Logger').value).toBe('l7') // a logger before a probe
    fireEvent.change(screen.getByLabelText('For the step'), { target: { value: 'sour' } })
    expect(options('Logger')).toEqual(['pH meter ±0.05 pH'])
    fireEvent.change(screen.getByLabelText('For the step'), { target: { value: 'cook' } })
    expect(screen.getByLabelText<HTMLSelectElement>('Logger').value).toBe('l7')
  })

  it('is attached and the dialog is gone', async () => {
    await dialog()
    fireEvent.click(go())
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent()).toHaveLength(1)
    expect(sent()[0]?.key).toBeTruthy()
  })

  it('that speaks against what was typed is asked about, and attached all the same', async () => {
    attach = new Refusal(409, {
      code: 'ask_first', sentence: 'At 09:00 the file says 61 and A read 30.', fields: { reason: 'differs' },
    }) // prettier-ignore
    await dialog()
    fireEvent.click(go())
    expect(await screen.findByText(/the file says 61/)).toBeTruthy()
    attach = { batch_id: 'b1' }
    fireEvent.click(screen.getByRole('button', { name: 'Attach it all the same' }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent()[0]?.key).not.toBe(sent()[1]?.key) // another answer is another write
  })

  it('of another day may be moved by the lead, with a reason that says something', async () => {
    role = 'lead'
    attach = new Refusal(409, {
      code: 'ask_first', sentence: 'It is of another day.', fields: { suggestion_shift_s: 3600 },
    }) // prettier-ignore
    await dialog()
    fireEvent.click(go())
    fireEvent.click(await screen.findByRole('button', { name: /Move the clock/ }))
    await screen.findByText(/is moved by 1 h/)
    expect(go().disabled).toBe(true)
    fireEvent.change(screen.getByRole('textbox'), {
      target: { value: 'Its battery was out, and the wall clock said nine.' },
    })
    await waitFor(() => expect(go().disabled).toBe(false))
  })

  it('of another day is not moved by a cook', async () => {
    attach = new Refusal(409, { code: 'ask_first', sentence: 'Another day.', fields: { suggestion_shift_s: 3600 } })
    await dialog()
    fireEvent.click(go())
    fireEvent.click(await screen.findByRole('button', { name: /Move the clock/ }))
    expect(await screen.findByText('Only the lead may move a logger’s clock.')).toBeTruthy()
    expect(screen.queryByRole('textbox')).toBeNull()
    expect(go().disabled).toBe(true)
  })

  it('that is none says so, and cannot be attached', async () => {
    house = server({
      'GET /api/v1/reference': { quantities: QUANTITIES },
      'GET /api/v1/instruments': KIT,
      'POST /api/v1/traces/preview': new Refusal(422, { code: 'unreadable_file', sentence: 'This is no log.' }),
    })
    drawn(<TraceDialog batch={{ batch_id: 'b1', blocks: BLOCKS, traces: [] } as unknown as Batch} file={file} onClose={onClose} />) // prettier-ignore
    expect(await screen.findByText('This is no log.')).toBeTruthy()
    expect(go().disabled).toBe(true)
  })

  it('that is too large is refused before it is sent', async () => {
    const large = new File([new Uint8Array(8_000_001)], 'large.csv')
    drawn(<TraceDialog batch={{ batch_id: 'b1', blocks: BLOCKS, traces: [] } as unknown as Batch} file={large} onClose={onClose} />) // prettier-ignore
    expect(await screen.findByText(/the most is 8 MB/)).toBeTruthy()
    expect(house.of('POST')).toHaveLength(0)
  })
})
