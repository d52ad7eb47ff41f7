// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { setUnit } from '../units'
import { NumberPad } from './NumberPad'
import type { PadTarget } from './usePad'

const READINGS = '/api/v1/batches/b1/readings'
const QUANTITIES = [
  { key: 'core', unit: '°C', kind: 'temperature', decimals: 1, kit: ['probe'] },
  { key: 'ph', unit: 'pH', kind: 'ph', decimals: 2, kit: ['meter'] },
  { key: 'lid', unit: '', kind: 'flag', decimals: 0, kit: [] },
]
const far = '2999-01-01T00:00:00Z'
const KIT = [
  { id: 'logger-7', name: 'Logger', kind: 'logger', quantities: ['core'], uncertainty: 0.3, due_at: far },
  { id: 'probe-2', name: 'Probe 2', kind: 'probe', quantities: ['core'], uncertainty: 0.5, due_at: far },
  { id: 'meter-1', name: 'Meter', kind: 'meter', quantities: ['ph'], uncertainty: 0.05, due_at: far },
]
const TARGET: PadTarget = {
  batchId: 'b1',
  batchCode: 'B-7',
  step: 'cook',
  quantity: 'core',
  what: 'Core of the thickest bag',
  check: 'cook:core:1',
  expected: [60, 63.5],
}

function kitchen(reply: unknown = { batch_id: 'b1', code: 'B-7' }) {
  return server({
    'GET /api/v1/reference': { quantities: QUANTITIES, rule_sets: [], step_kinds: [], templates: [] },
    'GET /api/v1/instruments': KIT,
    [`POST ${READINGS}`]: reply,
  })
}

async function pad(target: PadTarget = TARGET) {
  const onClose = vi.fn()
  drawn(<NumberPad target={target} onClose={onClose} />)
  if (target.quantity !== 'lid') await screen.findByRole('option', { name: /Probe 2|Meter/ })
  return onClose
}

function type(keys: string) {
  for (const key of keys) fireEvent.click(screen.getByRole('button', { name: key }))
}
const save = () => fireEvent.click(screen.getByRole('button', { name: /^(Save|Log|Send)/ }))
const sent = (house: ReturnType<typeof kitchen>) => house.of('POST').map((each) => each.body as Record<string, unknown>)

const DOWN = { code: 'store_down', sentence: 'The records cannot be reached.' }

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the pad', () => {
  it('logs two touches and a number with the probe for it, and closes', async () => {
    const house = kitchen()
    const onClose = await pad()
    type('62.8')
    save()
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent(house)[0]).toMatchObject({
      step: 'cook',
      quantity: 'core',
      value: 62.8,
      unit: '°C',
      instrument: 'probe-2',
      check: 'cook:core:1',
      confirmed: false,
    })
  })

  it('is in °F for who reads so, and can be turned for one reading', async () => {
    setUnit('temperature', '°F')
    const house = kitchen()
    const onClose = await pad()
    type('145')
    save()
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent(house)[0]).toMatchObject({ value: 145, unit: '°F' })
    cleanup()
    await pad()
    fireEvent.click(screen.getByRole('button', { name: /°C/ }))
    type('62.8')
    save()
    await waitFor(() => expect(sent(house)).toHaveLength(2))
    expect(sent(house)[1]).toMatchObject({ value: 62.8, unit: '°C' })
  })

  it('takes a minus, one point, and no more than seven keys', async () => {
    const house = kitchen()
    await pad()
    type('1.5.')
    type('−')
    expect(screen.getByRole<HTMLInputElement>('textbox', { name: TARGET.what }).value).toBe('−1.5')
    save()
    await waitFor(() => expect(sent(house)).toHaveLength(1))
    expect(sent(house)[0]).toMatchObject({ value: -1.5 })
  })

  it('asks once about what looks like a slip, and sends it confirmed', async () => {
    const ask = new Refusal(409, { code: 'ask_first', sentence: 'That is far from what is expected.', fields: {} })
    let first = true
    const house = kitchen(() => {
      if (!first) return { batch_id: 'b1', code: 'B-7' }
      first = false
      return ask
    })
    const onClose = await pad()
    type('26.8')
    save()
    await screen.findByText('That is far from what is expected.')
    expect(onClose).not.toHaveBeenCalled()
    fireEvent.click(screen.getByRole('button', { name: /Yes/ }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent(house).map((each) => each.confirmed)).toEqual([false, true])
  })

  it('offers °F where a number was meant so', async () => {
    const ask = new Refusal(409, { code: 'ask_first', sentence: 'Hot?', fields: { suggestion_c: 62.8 } })
    const house = kitchen(({ body }: { body: unknown }) =>
      (body as { unit: string }).unit === '°F' ? { batch_id: 'b1', code: 'B-7' } : ask,
    )
    const onClose = await pad()
    type('145')
    save()
    fireEvent.click(await screen.findByRole('button', { name: /62\.8 °C/ }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent(house)[1]).toMatchObject({ value: 145, unit: '°F', confirmed: true })
  })

  it('sends again under the same key and with the same moment when the server was gone', async () => {
    let down = true
    const house = kitchen(() => (down ? new TypeError('gone') : { batch_id: 'b1', code: 'B-7' }))
    const onClose = await pad()
    type('62')
    save()
    await screen.findByRole('button', { name: /again/i })
    expect(onClose).not.toHaveBeenCalled()
    down = false
    fireEvent.click(screen.getByRole('button', { name: /again/i }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    const posts = house.of('POST')
    expect(posts).toHaveLength(2)
    expect(new Set(posts.map((each) => each.key)).size).toBe(1)
    expect(posts[0]?.body).toEqual(posts[1]?.body)
  })

  it('keeps it on the tablet when the server stays away, under the key it was sent with', async () => {
    const house = kitchen(() => new TypeError('gone'))
    const onClose = await pad()
    type('62')
    save()
    await screen.findByRole('button', { name: /again/i })
    fireEvent.click(screen.getByRole('button', { name: /save on this tablet/i }))
    expect(onClose).toHaveBeenCalled()
    const kept = Object.values({ ...localStorage }).join(' ')
    expect(kept).toContain(house.of('POST')[0]?.key ?? 'no key')
  })

  it('says nothing is typed, and a clock that is none', async () => {
    const house = kitchen()
    await pad()
    expect(screen.getByRole('button', { name: /^(Save|Log|Send)/ })).toHaveProperty('disabled', true)
    type('62')
    fireEvent.change(screen.getByLabelText('Taken at'), { target: { value: '25:99' } })
    save()
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(sent(house)).toHaveLength(0)
  })

  it('takes nothing before it knows the unit', async () => {
    let known: (() => void) | undefined
    const house = server({
      'GET /api/v1/reference': () => new Promise((resolve) => (known = () => resolve({ quantities: QUANTITIES }))),
      'GET /api/v1/instruments': KIT,
      [`POST ${READINGS}`]: { batch_id: 'b1', code: 'B-7' },
    })
    drawn(<NumberPad target={TARGET} onClose={vi.fn()} />)
    await waitFor(() => expect(known).toBeTruthy())
    expect(screen.queryByRole('textbox')).toBeNull() // hidden: nobody can type into it
    known?.()
    await screen.findByRole('option', { name: /Probe 2/ })
    type('62.8')
    save()
    await waitFor(() => expect(house.of('POST')[0]?.body).toMatchObject({ unit: '°C' }))
  })

  it('has two keys for what is looked at', async () => {
    const house = kitchen()
    const onClose = await pad({ ...TARGET, quantity: 'lid', what: 'Every lid down', expected: [1, 1] })
    await screen.findByRole('button', { name: /Not OK/ })
    fireEvent.click(screen.getByRole('button', { name: /Not OK/ }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(sent(house)[0]).toMatchObject({ quantity: 'lid', value: 0, instrument: 'eyes' })
  })
})

it('keeps what is typed before it stands, and sends it once it was seen', async () => {
  let let_: (kit: unknown) => void = () => {}
  const house = server({
    'GET /api/v1/reference': { quantities: QUANTITIES, rule_sets: [], step_kinds: [], templates: [] },
    'GET /api/v1/instruments': () => new Promise((resolve) => (let_ = resolve)),
    [`POST ${READINGS}`]: { batch_id: 'b1', code: 'B-7' },
  })
  drawn(<NumberPad target={TARGET} onClose={vi.fn()} />)
  await waitFor(() => expect(house.asked.some((each) => each.path === '/api/v1/instruments')).toBe(true))
  for (const key of ['6', '2', 'x', '9', 'Backspace', '.', '8', 'Enter'])
    fireEvent.keyDown(screen.getByRole('dialog'), { key })
  let_(KIT)
  const field = await screen.findByRole<HTMLInputElement>('textbox', { name: TARGET.what })
  expect(field.value).toBe('62.8')
  expect(sent(house)).toEqual([])
  save()
  await waitFor(() => expect(sent(house)[0]).toMatchObject({ value: 62.8, unit: '°C' }))
})

it('says why what can be measured does not come, and asks again', async () => {
  let asks = 0
  server({
    'GET /api/v1/reference': () =>
      asks++ ? { quantities: QUANTITIES, rule_sets: [], step_kinds: [], templates: [] } : new Refusal(503, DOWN),
    'GET /api/v1/instruments': KIT,
  })
  drawn(<NumberPad target={TARGET} onClose={vi.fn()} />)
  expect(await screen.findByText(DOWN.sentence)).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: /again/i }))
  expect(await screen.findByRole('button', { name: '4' })).toBeTruthy()
})
