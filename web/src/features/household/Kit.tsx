import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { dayOf, nowMs } from '../../shared/clock'
import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { useQuantities } from '../../shared/reference'
import { useInstruments } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Instrument, useAddInstrument, useCalibrate } from './api'
import { plusMinus } from '../../shared/quantities'

const KINDS = ['probe', 'logger', 'meter', 'unit'] as const

/** What is measured with, when it was checked, and against what. */
export function Kit() {
  const { t } = useTranslation()
  const instruments = useInstruments()
  return (
    <section className="sheet">
      <h2>{t('household.kit')}</h2>
      <ProblemLine problem={instruments.error} again={() => void instruments.refetch()} />
      <ul className="assumed rule-rows">
        {(instruments.data ?? []).map((item) => (
          <Item key={item.id} item={item} />
        ))}
      </ul>
      <AddInstrument />
    </section>
  )
}

function Item({ item }: { item: Instrument }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const calibrate = useCalibrate(item.id)
  const meter = item.quantities.includes('ph')
  const ways = meter ? (['buffers'] as const) : (['ice', 'boiling', 'reference'] as const)
  const [open, setOpen] = useState(false)
  const [against, setAgainst] = useState<Schemas['Calibration']['against']>(ways[0])
  const [reference, setReference] = useState('')
  const [found, setFound] = useState('')
  const [left, setLeft] = useState('')
  const [hint, setHint] = useState('')
  const overdue = Date.parse(item.due_at) <= nowMs()
  const needsReference = against === 'reference' || against === 'buffers'
  const number = (text: string) => Number(text.replace('−', '-').replace(',', '.'))
  function submit(event: FormEvent) {
    event.preventDefault()
    const values = [found, left, needsReference ? reference : ''].filter(Boolean).map(number)
    if (!found || values.some(Number.isNaN) || (needsReference && !reference)) return setHint(t('household.numbers'))
    setHint('')
    calibrate.mutate(
      {
        against,
        reference: needsReference ? number(reference) : null,
        as_found: number(found),
        as_left: left ? number(left) : null,
        due_days: 30,
        note: '',
      },
      {
        onSuccess: () => {
          setFound('')
          setLeft('')
        },
      },
    )
  }
  return (
    <li aria-label={item.name}>
      <div className="row-line">
        <StateMark state={overdue ? 'late' : 'done'} bare />
        <span className="strong">{item.name}</span>
        <span className="quiet">
          {plusMinus(item.uncertainty, meter ? 'pH' : '°C')} ·{' '}
          {t(overdue ? 'household.wasDue' : 'household.due', { day: dayOf(item.due_at) })}
        </span>
        <Button className="push" variant="outline-primary" aria-expanded={open} onClick={() => setOpen(!open)}>
          {t('household.check', { name: item.name })}
        </Button>
      </div>
      {open && (
        <Form onSubmit={submit} className="stack tight">
          <div className="pad-facts">
            <Labelled label={t('household.against')}>
              <Form.Select value={against} onChange={(event) => setAgainst(event.target.value as typeof against)}>
                {ways.map((way) => (
                  <option key={way} value={way}>
                    {t(`household.ways.${way}`)}
                  </option>
                ))}
              </Form.Select>
            </Labelled>
            {needsReference && (
              <Labelled label={t('household.reference')}>
                <Form.Control
                  inputMode="decimal"
                  value={reference}
                  onChange={(event) => setReference(event.target.value)}
                />
              </Labelled>
            )}
          </div>
          <div className="pad-facts">
            <Labelled label={t('household.found')}>
              <Form.Control inputMode="decimal" value={found} onChange={(event) => setFound(event.target.value)} />
            </Labelled>
            <Labelled label={t('household.leftAt')}>
              <Form.Control inputMode="decimal" value={left} onChange={(event) => setLeft(event.target.value)} />
            </Labelled>
            <Button type="submit" disabled={calibrate.isPending}>
              {t('household.save')}
            </Button>
          </div>
          {!meter && <p className="quiet small mb-0">{t('household.inCelsius')}</p>}
          {hint && (
            <p className="hot mb-0" role="alert">
              {hint}
            </p>
          )}
        </Form>
      )}
      {calibrate.data && (
        <p className={calibrate.data.in_use ? 'strong mb-0' : 'strong hot mb-0'} role="status">
          {words(calibrate.data.sentence)}
        </p>
      )}
      <ProblemLine problem={calibrate.error} />
    </li>
  )
}

function AddInstrument() {
  const { t } = useTranslation()
  const add = useAddInstrument()
  const { known } = useQuantities()
  const [name, setName] = useState('')
  const [kind, setKind] = useState<(typeof KINDS)[number]>('probe')
  const [uncertainty, setUncertainty] = useState('0.5')
  function submit(event: FormEvent) {
    event.preventDefault()
    add.mutate(
      {
        name: name.trim(),
        kind,
        quantities: known.filter((each) => each.kit.includes(kind)).map((each) => each.key),
        uncertainty: Number(uncertainty.replace(',', '.')),
      },
      { onSuccess: () => setName('') },
    )
  }
  return (
    <Form onSubmit={submit} className="stack tight mt-3" aria-label={t('household.addInstrument')}>
      <h3 className="mb-0">{t('household.addInstrument')}</h3>
      <div className="pad-facts">
        <Labelled label={t('household.instrument')}>
          <Form.Control
            required
            minLength={2}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <Labelled label={t('household.kind')}>
          <Form.Select value={kind} onChange={(event) => setKind(event.target.value as typeof kind)}>
            {KINDS.map((each) => (
              <option key={each} value={each}>
                {t(`household.kinds.${each}`)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
        <Labelled label={t('household.uncertainty')}>
          <Form.Control
            inputMode="decimal"
            required
            value={uncertainty}
            onChange={(event) => setUncertainty(event.target.value)}
          />
        </Labelled>
      </div>
      <ProblemLine problem={add.error} />
      <div>
        <Button type="submit" variant="outline-primary" disabled={add.isPending}>
          {t('household.addInstrument')}
        </Button>
      </div>
    </Form>
  )
}
