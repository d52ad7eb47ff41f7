import { useQuery } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { everyPlan } from '../../shared/client/paged'
import { Fold } from '../../shared/parts/Fold'
import { useInstruments, usePeople } from '../../shared/session'
import { useUnits } from '../../shared/units'

/** What is asked of the ledger; an empty answer asks for nothing. */
export interface Asked {
  find: string
  since: string
  until: string
  person: string
  instrument: string
  plan: string
  lot: string
  outcome: string
}

export const NOTHING: Asked = {
  find: '',
  since: '',
  until: '',
  person: '',
  instrument: '',
  plan: '',
  lot: '',
  outcome: '',
}

/** What is said of it, as the server is asked. */
export function saidOf(asked: Asked): Record<string, string> {
  return Object.fromEntries(Object.entries(asked).filter(([, value]) => value !== ''))
}

interface Props {
  asked: Asked
  onAsk: (asked: Asked) => void
}

/** From when to when, by whom, with what, of which dish, lot and outcome; and the batches that fit as one PDF. */
export function LedgerFilters({ asked, onAsk }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const people = usePeople().data ?? []
  const instruments = useInstruments().data ?? []
  const plans = useQuery({ queryKey: ['plans'], queryFn: everyPlan }).data ?? []
  const narrowed = saidOf({ ...asked, find: '' })
  const set = (key: keyof Asked) => (event: { target: { value: string } }) =>
    onAsk({ ...asked, [key]: event.target.value })
  const choice = (key: 'person' | 'instrument' | 'plan' | 'outcome', items: readonly (readonly [string, string])[]) => (
    <Form.Group controlId={`ledger-${key}`}>
      <Form.Label>{t(`ledger.${key}`)}</Form.Label>
      <Form.Select value={asked[key]} onChange={set(key)}>
        <option value="">{t('ledger.any')}</option>
        {items.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
  const typed = (key: 'since' | 'until' | 'lot', type: string) => (
    <Form.Group controlId={`ledger-${key}`}>
      <Form.Label>{t(`ledger.${key}`)}</Form.Label>
      <Form.Control type={type} maxLength={60} value={asked[key]} onChange={set(key)} />
    </Form.Group>
  )
  return (
    <Fold title={t('ledger.narrow')} count={Object.keys(narrowed).length || undefined}>
      <div className="ledger-filters">
        {typed('since', 'date')}
        {typed('until', 'date')}
        {choice(
          'plan',
          plans.map((plan) => [plan.plan_id, words(plan.name)] as const),
        )}
        {choice(
          'outcome',
          (['release', 'rework', 'discard'] as const).map((each) => [each, t(`decision.${each}`)] as const),
        )}
        {choice(
          'person',
          people.map((person) => [person.id, person.name] as const),
        )}
        {choice(
          'instrument',
          instruments.map((each) => [each.id, each.name] as const),
        )}
        {typed('lot', 'text')}
      </div>
      <a
        className="btn btn-outline-primary"
        href={`/api/v1/ledger/register.pdf?${new URLSearchParams(narrowed).toString()}`}
        download
      >
        {t('ledger.register')}
      </a>
    </Fold>
  )
}
