// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { setUnit } from '../../shared/units'
import { drawn, server } from '../../testing'
import { Kit } from './Kit'

const temperature = { unit: '°C', kind: 'temperature', decimals: 1, good_to: 0.5 }
const QUANTITIES = [
  { key: 'core', kit: ['probe', 'logger'], ...temperature },
  { key: 'air', kit: ['unit', 'logger', 'probe'], ...temperature },
  { key: 'ph', unit: 'pH', kind: 'ph', decimals: 2, kit: ['meter'], good_to: 0.05 },
  { key: 'aw', unit: 'aw', kind: 'number', decimals: 3, kit: ['meter'], good_to: 0.005 },
  { key: 'mass', unit: 'kg', kind: 'mass', decimals: 3, kit: ['scale'], good_to: 0.005 },
]
const item = (id: string, name: string, quantities: string[], uncertainty: number, due = '2031-01-01T00:00:00Z') => ({
  id, name, kind: 'probe', quantities, uncertainty, due_at: due, calibrated_at: '2026-01-01T00:00:00Z',
}) // prettier-ignore
const SAID = { instrument: 'p', expected: 0, error: 0.3, in_use: true, sentence: 'Probe 2 may be used.' }

let house: ReturnType<typeof server>
beforeEach(() => {
  house = server({
    'GET /api/v1/reference': { quantities: QUANTITIES },
    'GET /api/v1/instruments': [
      item('p', 'Probe 2', ['core', 'air'], 0.5),
      item('m', 'pH meter', ['ph'], 0.05),
      item('w', 'aw meter', ['aw'], 0.005, '2020-01-01T00:00:00Z'),
    ],
    'POST /api/v1/household/instruments/p/calibration': SAID,
    'POST /api/v1/household/instruments/w/calibration': { ...SAID, in_use: false, sentence: 'Set it right.' },
    'POST /api/v1/household/instruments': (asked: { body: unknown }) => asked.body,
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  setUnit('temperature', '°C')
})

async function opened(name: string) {
  drawn(<Kit />)
  const line = within(await screen.findByRole('listitem', { name }))
  const check = line.getByRole<HTMLButtonElement>('button', { name: `Check ${name}` })
  await waitFor(() => expect(check.disabled).toBe(false)) // what it reads is known
  fireEvent.click(check)
  return line
}
type Line = Awaited<ReturnType<typeof opened>>
const type = (line: Line, label: string, text: string) =>
  fireEvent.change(line.getByLabelText(label), { target: { value: text } })
const save = (line: Line) => fireEvent.click(line.getByRole('button', { name: 'Save' }))
const sent = () => house.of('POST').map((each) => each.body as Record<string, unknown>)

describe('a check of an instrument', () => {
  it('is sent as found and as left, and says what it came to', async () => {
    const line = await opened('Probe 2')
    type(line, 'As found', '2,4')
    type(line, 'As left, if set', '−0,1')
    save(line)
    expect(await line.findByText('Probe 2 may be used.')).toBeTruthy()
    expect(sent()).toMatchObject([{ against: 'ice', as_found: 2.4, as_left: -0.1, reference: null }])
  })

  it('means the same in °F, and takes the other unit where it is typed', async () => {
    setUnit('temperature', '°F')
    const line = await opened('Probe 2')
    expect(line.getByText('Readings in °F, or with their unit.')).toBeTruthy()
    type(line, 'As found', '33.8')
    type(line, 'As left, if set', '0 c')
    save(line)
    await waitFor(() => expect(sent()).toHaveLength(1))
    expect(sent()[0]).toMatchObject({ as_found: 1, as_left: 0 })
  })

  it.each([' ', '', 'x', '2.4.1', '12 kg'])('with “%s” typed is not sent: nobody read nothing', async (text) => {
    const line = await opened('Probe 2')
    type(line, 'As found', text)
    save(line)
    expect(line.getByRole('alert').textContent).toContain('as a number in °C')
    expect(sent()).toHaveLength(0)
  })

  it('is held against what that instrument can read', async () => {
    const ways = (line: Line) => within(line.getByLabelText('Against what')).getAllByRole('option').map((o) => o.textContent) // prettier-ignore
    expect(ways(await opened('Probe 2'))).toHaveLength(3)
    cleanup()
    expect(ways(await opened('pH meter'))).toEqual(['A buffer'])
    cleanup()
    const line = await opened('aw meter')
    expect(ways(line)).toEqual(['Something known'])
    type(line, 'As found', '0.80')
    save(line)
    expect(line.getByRole('alert')).toBeTruthy() // it was held against nothing
    type(line, 'It shows, or the buffer is', '0.92')
    save(line)
    expect((await line.findByText('Set it right.')).className).toContain('hot')
    expect(sent()).toMatchObject([{ against: 'reference', reference: 0.92, as_found: 0.8 }])
  })

  it('is told to be overdue, and each instrument is good to its own unit', async () => {
    drawn(<Kit />)
    expect(await screen.findByText(/±0.05 pH/)).toBeTruthy()
    expect(screen.getByText(/±0.005 aw/).textContent).toContain('due since')
    expect(screen.getByText(/±0.5/).textContent).toContain('good until')
  })
})

describe('an instrument that is added', () => {
  async function form() {
    drawn(<Kit />)
    await screen.findByText(/±0.05 pH/)
    return within(screen.getByRole('form', { name: 'Add an instrument' }))
  }
  const choose = (shown: Line, name: string) => {
    const option = shown.getByRole<HTMLOptionElement>('option', { name })
    fireEvent.change(shown.getByLabelText('Kind'), { target: { value: option.value } })
  }

  it.each([
    ['Probe', { kind: 'probe', quantities: ['core', 'air'], uncertainty: 0.5 }],
    ['Display of a fridge or store', { kind: 'unit', quantities: ['air'], uncertainty: 0.5 }],
    ['pH meter', { kind: 'meter', quantities: ['ph'], uncertainty: 0.05 }],
    ['Water-activity meter', { kind: 'meter', quantities: ['aw'], uncertainty: 0.005 }],
    ['Scale', { kind: 'scale', quantities: ['mass'], uncertainty: 0.005 }],
  ])('as a %s reads what such a one reads, as well as is usual', async (name, entry) => {
    const shown = await form()
    fireEvent.change(shown.getByLabelText('Name of the instrument'), { target: { value: 'New one' } })
    choose(shown, name)
    fireEvent.click(shown.getByRole('button', { name: 'Add an instrument' }))
    await waitFor(() => expect(sent()).toEqual([{ name: 'New one', ...entry }]))
  })

  it('is good to a difference of degrees, not to a temperature', async () => {
    setUnit('temperature', '°F')
    const shown = await form()
    const doubt = shown.getByLabelText<HTMLInputElement>(/Good to ±/)
    expect(doubt.value).toBe('0.9')
    fireEvent.change(doubt, { target: { value: '1.8' } })
    fireEvent.change(shown.getByLabelText('Name of the instrument'), { target: { value: 'New one' } })
    fireEvent.click(shown.getByRole('button', { name: 'Add an instrument' }))
    await waitFor(() => expect(sent()).toMatchObject([{ uncertainty: 1 }]))
  })

  it.each(['0', '-1', 'good', ''])('is not added as good to “%s”', async (text) => {
    const shown = await form()
    fireEvent.change(shown.getByLabelText(/Good to ±/), { target: { value: text } })
    expect(shown.getByRole<HTMLButtonElement>('button').disabled).toBe(true)
  })
})

it('lists the batches an instrument read while it was off, and which of them want a decision', async () => {
  const batches = [
    { batch_id: 'b1', code: 'B-1', name: 'Stew', changes: true },
    { batch_id: 'b2', code: 'B-2', name: 'Broth', changes: false },
  ]
  server({
    'GET /api/v1/reference': { quantities: QUANTITIES },
    'GET /api/v1/instruments': [item('p', 'Probe 2', ['core'], 0.5)],
    'POST /api/v1/household/instruments/p/calibration': { ...SAID, batches },
  })
  const line = await opened('Probe 2')
  for (const field of line.getAllByRole('textbox')) fireEvent.change(field, { target: { value: '0.9' } })
  save(line)
  expect(await screen.findByRole('link', { name: 'B-1 Stew' })).toBeTruthy()
  expect(screen.getByText(/judged otherwise now/)).toBeTruthy()
  expect(screen.getByText(/nothing changes/)).toBeTruthy()
})
