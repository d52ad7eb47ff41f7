import { useQuery } from '@tanstack/react-query'

import { answered, client, keyed, type Schemas } from '../../shared/client/client'
import { useWrite } from '../../shared/client/useWrite'

export type Account = Schemas['PersonState']
export type Instrument = Schemas['InstrumentRead']

const PEOPLE = ['accounts', 'people', 'ledger']
const KIT = ['instruments', 'ledger']

export function useAccounts() {
  return useQuery({ queryKey: ['accounts'], queryFn: () => answered(client.GET('/api/v1/household/people')) })
}

export function useAddPerson() {
  return useWrite(
    (body: Schemas['NewPerson'], key) =>
      answered(client.POST('/api/v1/household/people', { params: { header: keyed(key) }, body })),
    PEOPLE,
  )
}

export function usePresence(person: string) {
  return useWrite(
    (active: boolean, key) =>
      answered(
        client.POST('/api/v1/household/people/{person_id}/presence', {
          params: { path: { person_id: person }, header: keyed(key) },
          body: { active },
        }),
      ),
    PEOPLE,
  )
}

export function useSecrets(person: string) {
  return useWrite(
    (body: Schemas['NewSecrets'], key) =>
      answered(
        client.POST('/api/v1/household/people/{person_id}/secrets', {
          params: { path: { person_id: person }, header: keyed(key) },
          body,
        }),
      ),
    PEOPLE,
  )
}

export function useSignOutEverywhere(person: string) {
  return useWrite(
    (_: null, key) =>
      answered(
        client.POST('/api/v1/household/people/{person_id}/sign-out', {
          params: { path: { person_id: person }, header: keyed(key) },
        }),
      ),
    PEOPLE,
  )
}

export function useAddInstrument() {
  return useWrite(
    (body: Schemas['NewInstrument'], key) =>
      answered(client.POST('/api/v1/household/instruments', { params: { header: keyed(key) }, body })),
    KIT,
  )
}

export function useCalibrate(instrument: string) {
  return useWrite(
    (body: Schemas['Calibration'], key) =>
      answered(
        client.POST('/api/v1/household/instruments/{instrument_id}/calibration', {
          params: { path: { instrument_id: instrument }, header: keyed(key) },
          body,
        }),
      ),
    KIT,
  )
}

export function useCorrectSite() {
  return useWrite(
    (body: Schemas['SiteChange'], key) =>
      answered(client.PUT('/api/v1/household/site', { params: { header: keyed(key) }, body })),
    ['session', 'ledger'],
  )
}

/** What delivers by itself, with what each channel shows now. */
export function useHubs() {
  return useQuery({
    queryKey: ['hubs'],
    queryFn: () => answered(client.GET('/api/v1/household/hubs')),
    refetchInterval: 30_000,
  })
}

export function useAddHub() {
  return useWrite(
    (body: Schemas['NewHub'], key) =>
      answered(client.POST('/api/v1/household/hubs', { params: { header: keyed(key) }, body })),
    ['hubs', ...KIT],
  )
}

export function useEndHub() {
  return useWrite(
    (hub: string, key) =>
      answered(
        client.POST('/api/v1/household/hubs/{hub_id}/end', { params: { path: { hub_id: hub }, header: keyed(key) } }),
      ),
    ['hubs', 'ledger'],
  )
}
