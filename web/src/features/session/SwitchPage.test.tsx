// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { SwitchPage } from './SwitchPage'

const PEOPLE = [
  { id: 'p1', name: 'Ama Kesewaa', role: 'cook' },
  { id: 'p2', name: 'Ilse Brandvik', role: 'lead' },
]
let house: ReturnType<typeof server>
let reply: unknown
beforeEach(() => {
  reply = { person: PEOPLE[0], manners: {} }
  house = server({
    'GET /api/v1/session': { person: PEOPLE[1], manners: {}, now: '2026-11-26T09:00:00Z', zone: 'UTC' },
    'GET /api/v1/people': PEOPLE,
    'POST /api/v1/session/switch': () => reply,
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

async function pad() {
  drawn(
    <Routes>
      <Route path="/switch" element={<SwitchPage />} />
      <Route path="/shift" element={<p>The shift</p>} />
    </Routes>,
    '/switch',
  )
  fireEvent.click(await screen.findByRole('button', { name: /Ama Kesewaa/ }))
  return screen.getByLabelText<HTMLInputElement>(/Ama Kesewaa/)
}
const key = (name: string) => fireEvent.click(screen.getByRole('button', { name }))
const go = () => screen.getAllByRole<HTMLButtonElement>('button').find((each) => each.type === 'submit')!
const sent = () => house.of('POST').map((each) => each.body)

describe('another pair of hands', () => {
  it('takes the tablet with four digits and stands before the shift', async () => {
    await pad()
    for (const digit of '471') key(digit)
    expect(go().disabled).toBe(true)
    key('1')
    fireEvent.click(go())
    expect(await screen.findByText('The shift')).toBeTruthy()
    expect(sent()).toEqual([{ person: 'p1', pin: '4711' }])
  })

  it('takes a wrong digit back, letters never, and no more than eight', async () => {
    const field = await pad()
    for (const digit of '1234567890') key(digit)
    expect(field.value).toBe('12345678')
    key('Delete last')
    expect(field.value).toBe('1234567')
    fireEvent.change(field, { target: { value: '12 ab-34' } })
    expect(field.value).toBe('1234')
  })

  it('with a wrong PIN is told, and the digits are gone', async () => {
    reply = new Refusal(401, { code: 'signed_out', sentence: 'That is not the PIN.' })
    const field = await pad()
    for (const digit of '0000') key(digit)
    fireEvent.click(go())
    expect(await screen.findByText('That is not the PIN.')).toBeTruthy()
    await waitFor(() => expect(field.value).toBe(''))
    expect(field.type).toBe('password')
  })

  it('may be somebody else after all', async () => {
    await pad()
    fireEvent.click(screen.getByRole('button', { name: 'Switch user' }))
    expect(await screen.findByRole('button', { name: /^Ilse Brandvik/ })).toBeTruthy()
  })
})

describe('the change of shift', () => {
  it('goes to somebody else who logs, with their PIN and a note', async () => {
    house = server({
      'GET /api/v1/session': { person: PEOPLE[1], manners: {}, now: '2026-11-26T09:00:00Z', zone: 'UTC' },
      'GET /api/v1/people': [...PEOPLE, { id: 'p3', name: 'Rui Fontelmo', role: 'reviewer' }],
      'POST /api/v1/session/handover': { person: PEOPLE[0], manners: {} },
    })
    drawn(
      <Routes>
        <Route path="/handover" element={<SwitchPage handing />} />
        <Route path="/shift" element={<p>The shift</p>} />
      </Routes>,
      '/handover',
    )
    const ama = await screen.findByRole('button', { name: /Ama Kesewaa/ })
    expect(document.querySelectorAll('.switch-people button')).toHaveLength(1)
    fireEvent.click(ama)
    fireEvent.change(screen.getByLabelText(/should know/), { target: { value: 'The walk-in stood open.' } })
    for (const digit of '4711') key(digit)
    fireEvent.click(go())
    expect(await screen.findByText('The shift')).toBeTruthy()
    expect(sent()).toEqual([{ to: 'p1', pin: '4711', note: 'The walk-in stood open.' }])
  })
})
