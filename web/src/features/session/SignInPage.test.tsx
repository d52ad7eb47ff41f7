// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { SignInAgain, SignInPage } from './SignInPage'

const DOOR = { person: null, manners: {}, site: 'Skarn Ridge', altitude_m: 2140, boiling_c: 92.9, asks_kitchen: false, now: '2026-11-26T09:00:00Z', zone: 'UTC' } // prettier-ignore

function door(more: object = {}, reply: unknown = { person: { id: 'p', name: 'Ilse', role: 'lead' }, manners: {} }) {
  return server({ 'GET /api/v1/session': { ...DOOR, ...more }, 'POST /api/v1/session': reply })
}
const fill = (label: string, text: string) => fireEvent.change(screen.getByLabelText(label), { target: { value: text } }) // prettier-ignore
const go = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Sign in' })

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  localStorage.clear()
})

describe('the door', () => {
  it('says whose kitchen it is, and lets somebody in by name and password', async () => {
    const house = door()
    drawn(<SignInPage />)
    expect(await screen.findByText(/Skarn Ridge.*2,140 m.*92.9 °C/)).toBeTruthy()
    fill('Name', 'Ilse Brandvik')
    fill('Password', 'larder')
    fireEvent.click(go())
    await waitFor(() => expect(house.of('POST')[0]?.body).toEqual({ name: 'Ilse Brandvik', password: 'larder' }))
  })

  it('says that it was wrong, and what was typed is still there', async () => {
    door({}, new Refusal(401, { code: 'signed_out', sentence: 'Name or password are wrong.' }))
    drawn(<SignInPage />)
    await screen.findByText(/Skarn Ridge/)
    fill('Name', 'Ilse')
    fill('Password', 'x')
    fireEvent.click(go())
    expect(await screen.findByText('Name or password are wrong.')).toBeTruthy()
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Ilse')
    expect(go().disabled).toBe(false)
  })

  it('of several kitchens asks for a word, keeps it on the tablet, and gives none away', async () => {
    const house = door({ site: '', asks_kitchen: true })
    drawn(<SignInPage />)
    await screen.findByLabelText('Kitchen code')
    expect(document.querySelector('.door-site')).toBeNull()
    fill('Kitchen code', 'annex')
    fill('Name', 'Ilse')
    fill('Password', 'larder')
    fireEvent.click(go())
    await waitFor(() => expect(house.of('POST')).toHaveLength(1))
    cleanup()
    drawn(<SignInPage />)
    expect((await screen.findByLabelText<HTMLInputElement>('Kitchen code')).value).toBe('annex')
  })

  it('stands over the page when a session has run out, for the same person', async () => {
    door()
    drawn(<SignInAgain byPin={false} name="Tomasz Źrebiec" />)
    const again = await screen.findByRole('dialog')
    expect(again.textContent).toContain('What you typed is still here')
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Tomasz Źrebiec')
    expect(document.activeElement).toBe(screen.getByLabelText('Password'))
    fireEvent.keyDown(again, { key: 'Escape' })
    expect(screen.getByRole('dialog')).toBeTruthy() // nothing goes on behind it
  })
})
