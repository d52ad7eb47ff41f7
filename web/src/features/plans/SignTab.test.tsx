// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import { SignTab } from './SignTab'
import type { Draft } from './useDraft'

const VERSION = {
  version: 1, signed_by: 'Ilse', signed_at: '2026-11-01T08:00:00Z', proof_meets: false, reason: 'As the county approved',
  hash: 'a'.repeat(64),
} // prettier-ignore

function draft(more: object = {}, dirty = false): Draft {
  const saved = {
    revision: 4,
    changed_since_signed: true,
    gaps: [],
    asked_since: [],
    versions: [],
    hash: 'b'.repeat(64),
    ...more,
  }
  return { saved, dirty, plan: { name: 'Stew', steps: [] } } as unknown as Draft
}

async function seen(what: Draft, { meets = true, role = 'lead', reply = {} as unknown } = {}) {
  const house = server({
    'GET /api/v1/session': {
      person: { id: 'p', name: 'Ilse', role },
      manners: {},
      now: VERSION.signed_at,
      zone: 'UTC',
    },
    'POST /api/v1/plans/p1/proof': {
      meets,
      state: meets ? 'meets' : 'fails',
      sentence: meets ? 'It should meet its limits.' : 'It fails one limit.',
    },
    'GET /api/v1/plans/p1/versions/1/changes': [{ where: 'steps › cook › bath_c', before: '63', after: '65' }],
    'POST /api/v1/plans/p1/signature': reply,
  })
  drawn(<SignTab draft={what} planId="p1" />)
  if (role === 'lead') await screen.findByText(/It should meet|It fails/)
  return house
}
const go = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Sign the plan' })
const signed = (house: Awaited<ReturnType<typeof seen>>) => house.asked.find((each) => each.path.endsWith('/signature'))

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('signing', () => {
  it('a plan that should meet its limits takes the password alone, and forgets it', async () => {
    const house = await seen(draft())
    const password = screen.getByLabelText<HTMLInputElement>('Your password, as signature')
    fireEvent.change(password, { target: { value: 'larder' } })
    fireEvent.click(go())
    await waitFor(() => expect(signed(house)?.body).toEqual({ revision: 4, password: 'larder', reason: '' }))
    await waitFor(() => expect(password.value).toBe(''))
  })

  it('a plan that fails its proof needs a reason that says something', async () => {
    const house = await seen(draft(), { meets: false })
    fireEvent.change(screen.getByLabelText('Your password, as signature'), { target: { value: 'larder' } })
    expect(go().disabled).toBe(true)
    const reason = screen.getByRole('textbox')
    fireEvent.change(reason, { target: { value: 'too short' } })
    expect(go().disabled).toBe(true)
    fireEvent.change(reason, { target: { value: 'Approved by the county, file 12' } })
    fireEvent.click(go())
    await waitFor(() => expect(signed(house)?.body).toMatchObject({ reason: 'Approved by the county, file 12' }))
  })

  it('what is still open, or not yet saved, cannot be signed and says so', async () => {
    await seen(draft({ gaps: [{ where: 'steps', sentence: 'Chill has no limit.' }] }))
    expect(screen.getByText('Chill has no limit.')).toBeTruthy()
    expect(go().disabled).toBe(true)
    cleanup()
    await seen(draft({}, true))
    expect(go().disabled).toBe(true)
  })

  it('a wrong password is said, and may be typed again', async () => {
    await seen(draft(), { reply: new Refusal(403, { code: 'refused', sentence: 'That is not your password.' }) })
    fireEvent.change(screen.getByLabelText('Your password, as signature'), { target: { value: 'guess' } })
    fireEvent.click(go())
    expect(await screen.findByText('That is not your password.')).toBeTruthy()
    expect(go().disabled).toBe(false)
  })

  it('is the lead’s: a cook sees the versions and what changed', async () => {
    await seen(draft({ versions: [VERSION] }), { role: 'cook' })
    expect(await screen.findByText('steps › cook › bath_c')).toBeTruthy()
    expect(screen.getByText(/As the county approved/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Sign the plan' })).toBeNull()
  })
})
