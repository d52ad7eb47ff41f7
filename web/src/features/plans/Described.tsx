import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Draft } from './useDraft'

type Item = Draft['plan']['ingredients'][number]
type Said = NonNullable<Item['described']>

const NATURES = [
  'mixture',
  'meat',
  'bird',
  'fish',
  'shellfish',
  'egg',
  'dairy',
  'plant',
  'grain',
  'harmless',
] as const satisfies readonly Said['nature'][]
const STATES = ['raw', 'cooked', 'ready', 'sour', 'dry'] as const satisfies readonly Said['state'][]

/** A food that the catalogue has no row for, by its name: what it is follows on its line. */
export function NewFood({ onAdd }: { onAdd: (name: string, described: Said) => void }) {
  const { t } = useTranslation()
  const [name, setName] = useState('')
  const add = (event: FormEvent) => {
    event.preventDefault()
    if (!name.trim()) return
    onAdd(name.trim(), { nature: 'mixture', state: 'raw', made_by: '', answered_by: '' })
    setName('')
  }
  return (
    <Form className="new-food" onSubmit={add}>
      <Form.Group controlId="new-food">
        <Form.Label>{t('plans.newFood')}</Form.Label>
        <div className="d-flex gap-2">
          <Form.Control
            value={name}
            maxLength={80}
            placeholder={t('plans.newFoodHelp')}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="submit" variant="outline-secondary" disabled={!name.trim()}>
            {t('plans.describeGo')}
          </Button>
        </div>
      </Form.Group>
    </Form>
  )
}

/** What a food without a row is: its kind, how it comes in, who made it, who answers for it. */
export function DescribedFood({
  name,
  said,
  readOnly,
  onChange,
}: {
  name: string
  said: Said
  readOnly: boolean
  onChange: (said: Said) => void
}) {
  const { t } = useTranslation()
  const text = (key: 'made_by' | 'answered_by') => (
    <Form.Control
      disabled={readOnly}
      aria-label={t(`plans.described.${key}`, { name })}
      placeholder={t(`plans.described.${key}`, { name: '' }).trim()}
      value={said[key]}
      maxLength={80}
      onChange={(event) => onChange({ ...said, [key]: event.target.value })}
    />
  )
  return (
    <div className="described">
      <Form.Select
        disabled={readOnly}
        aria-label={t('plans.described.what', { name })}
        value={said.nature}
        onChange={(event) => onChange({ ...said, nature: event.target.value as Said['nature'] })}
      >
        {NATURES.map((each) => (
          <option key={each} value={each}>
            {t(`plans.natures.${each}`)}
          </option>
        ))}
      </Form.Select>
      <Form.Select
        disabled={readOnly}
        aria-label={t('plans.described.state', { name })}
        value={said.state}
        onChange={(event) => onChange({ ...said, state: event.target.value as Said['state'] })}
      >
        {STATES.map((each) => (
          <option key={each} value={each}>
            {t(`plans.states.${each}`)}
          </option>
        ))}
      </Form.Select>
      {said.state !== 'raw' && text('made_by')}
      {text('answered_by')}
    </div>
  )
}
