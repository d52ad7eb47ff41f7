import { useMemo } from 'react'

import { type Query, type QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'

import { askAnew } from './client/askAnew'
import { answered, client, type Problem, type Schemas } from './client/client'
import { resumeClock, setClock } from './clock'
import { forgetSeen } from './lasting'
import { takeLanguage } from './text/i18n'
import { takeTheme } from './theme'
import { takeUnits } from './units'

type Session = Schemas['SessionRead']

let last: (Schemas['PersonRead'] & { byPin: boolean }) | null = null

/** Who was signed in here last; nobody once they signed out themselves. */
export function lastIn() {
  return last
}

/** What this tablet last knew, where it opens without a network. */
export function resumeSession(queries: QueryClient): void {
  const session = queries.getQueryData<Session>(['session'])
  if (!session) return
  takeSession(session)
  resumeClock(session.zone)
  void queries.invalidateQueries({ queryKey: ['session'] }) // somebody else may have signed in here since
}

function settled(session: Session): Session {
  setClock(session.now, session.zone)
  return takeSession(session)
}

function takeSession(session: Session): Session {
  if (session.person) {
    last = { ...session.person, byPin: session.by_pin }
    takeUnits(session.manners)
    takeTheme(session.manners.theme)
    void takeLanguage(session.manners.language)
  }
  return session
}

const MANNERS = ['manners']
let turned = 0 // changes of manners so far
let handed = 0 // changes of who is signed in so far

export function useSession() {
  const queries = useQueryClient()
  return useQuery({
    queryKey: ['session'],
    queryFn: async () => {
      const [before, hand] = [turned, handed]
      const steady = queries.isMutating({ mutationKey: MANNERS }) === 0
      const session = await answered(client.GET('/api/v1/session'))
      // asked before somebody signed in or out: who is here now is known
      if (hand !== handed) return queries.getQueryData<Session>(['session']) ?? session
      if (steady && before === turned) return settled(session)
      // asked before a change was kept: what was chosen here since is the newer
      return settled({ ...session, manners: queries.getQueryData<Session>(['session'])?.manners ?? session.manners })
    },
    staleTime: 60_000,
    refetchInterval: 120_000,
  })
}

function useSessionChange<Entry>(change: (entry: Entry) => Promise<Session>) {
  const queries = useQueryClient()
  return useMutation<Session, Problem, Entry>({
    mutationFn: async (entry) => {
      const session = await change(entry)
      handed += 1
      return session
    },
    networkMode: 'always',
    onSuccess: (session) => {
      const same = session.person !== null && session.person.id === last?.id
      queries.setQueryData(['session'], settled(session))
      const others = { predicate: (query: Query) => query.queryKey[0] !== 'session' }
      if (same)
        void askAnew(queries, others) // the page stays as it is, with what was typed on it
      else queries.removeQueries(others)
    },
  })
}

export function useSignIn() {
  return useSessionChange((body: Schemas['SignIn']) => answered(client.POST('/api/v1/session', { body })))
}

export function usePinSwitch() {
  return useSessionChange((body: Schemas['PinSwitch']) => answered(client.POST('/api/v1/session/switch', { body })))
}

/** The shift goes to whoever takes it by their PIN, with a note of what they should know. */
export function useHandover() {
  return useSessionChange((body: Schemas['HandoverEntry']) =>
    answered(client.POST('/api/v1/session/handover', { body })),
  )
}

/** The session that ran out on this tablet, taken up again by the PIN of whoever had it. */
export function usePinRenewal() {
  return useSessionChange((body: Schemas['PinRenewal']) => answered(client.POST('/api/v1/session/renewal', { body })))
}

export function useSignOut() {
  return useSessionChange<undefined>(async () => {
    const session = await answered(client.DELETE('/api/v1/session'))
    last = null
    await forgetSeen()
    return session
  })
}

/** Language, units and ground belong to the person: kept on the server, they follow from tablet to tablet. */
export function useManners() {
  const queries = useQueryClient()
  return useMutation<Session, Problem, Partial<Schemas['Manners']>>({
    mutationKey: MANNERS,
    scope: { id: 'manners' }, // one after another: each sends all that was chosen until then
    networkMode: 'always',
    onMutate: (change) => {
      turned += 1
      queries.setQueryData<Session>(
        ['session'],
        (session) => session && { ...session, manners: { ...session.manners, ...change } },
      )
    },
    mutationFn: () =>
      answered(
        client.PUT('/api/v1/session/manners', { body: queries.getQueryData<Session>(['session'])?.manners ?? {} }),
      ),
    onSuccess: (session) => {
      if (queries.isMutating({ mutationKey: MANNERS }) !== 1) return
      queries.setQueryData(['session'], settled(session))
      // sentences come as the person reads them
      void askAnew(queries, { predicate: (query: Query) => query.queryKey[0] !== 'session' })
    },
  })
}

export function usePeople() {
  return useQuery({ queryKey: ['people'], queryFn: () => answered(client.GET('/api/v1/people')) })
}

export function useInstruments() {
  return useQuery({
    queryKey: ['instruments'],
    queryFn: () => answered(client.GET('/api/v1/instruments')),
    staleTime: 60_000,
  })
}

/** Whose readings this tablet may send now; nobody's while nobody is signed in. */
export function useHolder() {
  const session = useSession().data
  const [id, kitchen] = [session?.person?.id, session?.kitchen]
  return useMemo(() => (id && kitchen !== undefined ? { id, kitchen } : null), [id, kitchen])
}

export function useRole() {
  const role = useSession().data?.person?.role
  return {
    isLead: role === 'lead',
    mayDecide: role === 'lead' || role === 'reviewer',
    mayLog: role === 'lead' || role === 'cook',
  }
}
