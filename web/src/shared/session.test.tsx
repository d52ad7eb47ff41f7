// @vitest-environment jsdom
import { useQuery } from '@tanstack/react-query'
import { act, cleanup, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { running, server } from '../testing'
import { answered, client } from './client/client'
import { lastIn, useManners, useRole, useSession, useSignIn, useSignOut } from './session'
import { choiceNow } from './units'

const SESSION = '/api/v1/session'
const person = (name: string, role = 'cook') => ({ id: name, name, role })
const session = (who: object | null, manners: object = {}) => ({
  person: who, manners, now: new Date().toISOString(), zone: 'Europe/Zurich', site: 'Skarn Ridge', rule_set: 'us',
}) // prettier-ignore

function useDesk() {
  return {
    session: useSession(),
    manners: useManners(),
    role: useRole(),
    signIn: useSignIn(),
    signOut: useSignOut(),
    people: useQuery({ queryKey: ['people'], queryFn: () => answered(client.GET('/api/v1/people')) }),
  }
}

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('knows who is there, what they may, and reads as they read', async () => {
  server({ [`GET ${SESSION}`]: session(person('Ilse', 'lead'), { temperature: '°F' }), 'GET /api/v1/people': [] })
  const { result } = running(useDesk)
  await waitFor(() => expect(result.current.session.data?.person?.name).toBe('Ilse'))
  expect(result.current.role).toEqual({ isLead: true, mayDecide: true, mayLog: true })
  expect(choiceNow().temperature).toBe('°F')
})

it('asks for sentences anew in the units they were turned to, each change kept with those before it', async () => {
  const kept: unknown[] = []
  const house = server({
    [`GET ${SESSION}`]: session(person('Ama')),
    [`PUT ${SESSION}/manners`]: ({ body }: { body: unknown }) => {
      kept.push(body)
      return session(person('Ama'), body as object)
    },
    'GET /api/v1/people': () => [{ name: `asked ${kept.length}` }],
  })
  const { result } = running(useDesk)
  await waitFor(() => expect(result.current.people.data).toEqual([{ name: 'asked 0' }]))
  act(() => {
    result.current.manners.mutate({ temperature: '°F' })
    result.current.manners.mutate({ length: 'in' })
  })
  await waitFor(() => expect(kept).toHaveLength(2))
  expect(kept.at(-1)).toEqual({ temperature: '°F', length: 'in' })
  await waitFor(() => expect(result.current.people.data).toEqual([{ name: 'asked 2' }]))
  expect(house.asked.filter((each) => each.path === '/api/v1/people')).toHaveLength(2) // once for both
})

it('forgets what another saw when somebody else signs in; keeps the page when the same one comes back', async () => {
  let who = 'Ama'
  server({
    [`GET ${SESSION}`]: () => session(person(who)),
    [`POST ${SESSION}`]: () => session(person(who)),
    'GET /api/v1/people': () => [{ name: who }],
  })
  const { result, queries } = running(useDesk)
  await waitFor(() => expect(result.current.people.data).toEqual([{ name: 'Ama' }]))
  await act(() => result.current.signIn.mutateAsync({ name: 'Ama', password: 'x' }))
  expect(queries.getQueryData(['people'])).toEqual([{ name: 'Ama' }])
  who = 'Tomasz'
  await act(() => result.current.signIn.mutateAsync({ name: 'Tomasz', password: 'x' }))
  expect(queries.getQueryData(['people'])).not.toEqual([{ name: 'Ama' }])
  expect(lastIn()?.name).toBe('Tomasz')
})

it('nobody was here last once they signed out themselves', async () => {
  let out = false
  server({
    [`GET ${SESSION}`]: () => session(out ? null : person('Ama')),
    [`DELETE ${SESSION}`]: () => ((out = true), session(null)),
    'GET /api/v1/people': [],
  })
  const { result } = running(useDesk)
  await waitFor(() => expect(lastIn()?.name).toBe('Ama'))
  await act(() => result.current.signOut.mutateAsync(undefined))
  expect(lastIn()).toBeNull()
  await waitFor(() => expect(result.current.session.data?.person).toBeNull()) // the page is drawn a moment later
})

it('who signed out stays out when what was asked before comes late', async () => {
  let late: (reply: object) => void = () => undefined
  let asks = 0
  server({
    [`GET ${SESSION}`]: () => (asks++ ? new Promise<object>((answer) => (late = answer)) : session(person('Ama'))),
    [`DELETE ${SESSION}`]: session(null),
    'GET /api/v1/people': [],
  })
  const { result } = running(useDesk)
  await waitFor(() => expect(result.current.session.data?.person?.name).toBe('Ama'))
  const asked = act(() => result.current.session.refetch())
  await waitFor(() => expect(asks).toBe(2))
  await act(() => result.current.signOut.mutateAsync(undefined))
  late(session(person('Ama')))
  await asked
  expect(lastIn()).toBeNull()
  expect(result.current.session.data?.person).toBeNull()
})
