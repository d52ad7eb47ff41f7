// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { HouseholdPage } from './HouseholdPage'

const PEOPLE = [
  { id: 'c', name: 'Ama Kesewaa', role: 'cook', active: true, has_pin: true },
  { id: 'x', name: 'Old Hand', role: 'cook', active: false, has_pin: false },
]
function house({ role = 'lead', manners = {}, more = {} }: { role?: string; manners?: object; more?: object } = {}) {
  const made = server({
    'GET /api/v1/session': {
      person: { id: 'p', name: 'I', role }, manners, now: '2026-11-26T09:30:00Z', zone: 'Europe/Zurich',
      site: 'Skarn Ridge', altitude_m: 2140, boiling_c: 92.9, rule_set: 'us',
    },
    'GET /api/v1/reference': { quantities: [] },
    'GET /api/v1/instruments': [],
    'GET /api/v1/household/people': PEOPLE,
    'PUT /api/v1/household/site': (asked: { body: unknown }) => asked.body,
    'POST /api/v1/household/people': (asked: { body: unknown }) => asked.body,
    'POST /api/v1/household/people/c/presence': PEOPLE[0],
    'POST /api/v1/household/people/c/secrets': PEOPLE[0],
    'POST /api/v1/household/people/c/sign-out': PEOPLE[0],
    ...more,
  }) // prettier-ignore
  drawn(<HouseholdPage />)
  return made
}
const fill = (label: string, text: string, within_: { getByLabelText: typeof screen.getByLabelText } = screen) =>
  fireEvent.change(within_.getByLabelText(label), { target: { value: text } })

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the kitchen itself', () => {
  const site = async () => within(await screen.findByRole('form', { name: /kitchen|where/i }))

  it('stands at a height that is a number, and an emptied field is not the sea', async () => {
    const made = house()
    const form = await site()
    const height = form.getByLabelText<HTMLInputElement>('Height above the sea')
    expect(height.value).toBe('2140')
    fireEvent.change(height, { target: { value: '' } })
    expect(form.getByRole('alert')).toBeTruthy()
    expect(form.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true)
    fireEvent.change(height, { target: { value: '2150' } })
    fireEvent.click(form.getByRole('button', { name: 'Save' }))
    await waitFor(() => expect(made.of('PUT')).toHaveLength(1))
    expect(made.of('PUT')[0]?.body).toEqual({ name: 'Skarn Ridge', altitude_m: 2150, zone: 'Europe/Zurich', rule_set: 'us' }) // prettier-ignore
  })

  it('has its height in feet for who reads inches', async () => {
    house({ manners: { length: 'in' } })
    const form = await site()
    await waitFor(() => expect(form.getByLabelText<HTMLInputElement>('Height above the sea').value).toBe('7021'))
  })

  it('says what is wrong with a zone, and keeps what was typed', async () => {
    house({
      more: { 'PUT /api/v1/household/site': new Refusal(422, { code: 'out_of_range', sentence: 'That zone is not known.' }) },
    }) // prettier-ignore
    const form = await site()
    fireEvent.change(form.getByDisplayValue('Europe/Zurich'), { target: { value: 'Berlin' } })
    fireEvent.click(form.getByRole('button', { name: 'Save' }))
    expect(await form.findByText('That zone is not known.')).toBeTruthy()
    expect(form.getByDisplayValue('Berlin')).toBeTruthy()
  })
})

describe('who works here', () => {
  const person = async (name: string) => within(await screen.findByRole('listitem', { name }))

  it('is let in and kept out, and signed out everywhere', async () => {
    const made = house()
    fireEvent.click((await person('Ama Kesewaa')).getByRole('button', { name: 'Keep out' }))
    await waitFor(() => expect(made.of('POST').at(-1)?.body).toEqual({ active: false }))
    expect((await person('Old Hand')).getByRole('button', { name: 'Let in' })).toBeTruthy()
    fireEvent.click((await person('Ama Kesewaa')).getByRole('button', { name: /Sign out/ }))
    await waitFor(() => expect(made.of('POST').at(-1)?.path).toMatch(/sign-out$/))
  })

  it('gets a new password or a new PIN, and the form is gone with what was typed', async () => {
    const made = house()
    const line = await person('Ama Kesewaa')
    fireEvent.click(line.getByRole('button', { name: /New|secret|password/i }))
    expect(line.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true)
    fill('New PIN, 4 to 8 digits', '8123', line)
    fireEvent.click(line.getByRole('button', { name: 'Save' }))
    await waitFor(() => expect(made.of('POST').at(-1)?.body).toEqual({ password: null, pin: '8123', current: '' }))
    await waitFor(() => expect(line.queryByLabelText('New PIN, 4 to 8 digits')).toBeNull())
  })

  it('is added with a first password, kept in the form where that is refused', async () => {
    const refused = new Refusal(409, { code: 'refused', sentence: 'There is an Ama already.' })
    house({ more: { 'POST /api/v1/household/people': refused } })
    const form = within(await screen.findByRole('form', { name: 'Add a person' }))
    fill('Name', 'Ama', form)
    fill('Password, 10 characters or more', 'long-enough-1', form)
    fireEvent.click(form.getByRole('button', { name: 'Add a person' }))
    expect(await form.findByText('There is an Ama already.')).toBeTruthy()
    expect(form.getByLabelText<HTMLInputElement>('Name').value).toBe('Ama')
  })
})

it('is the lead’s alone', async () => {
  const made = house({ role: 'cook' })
  expect(await screen.findByText('The lead keeps kit and people in order.')).toBeTruthy()
  expect(made.asked.some((each) => each.path.includes('household'))).toBe(false)
})
