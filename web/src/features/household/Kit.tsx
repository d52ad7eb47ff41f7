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
import { measureFor, plusMinus, written } from '../../shared/quantities'
import { quantityFrom } from '../../shared/typed'

/** What can be added: a kind, and where one kind is several instruments, the quantity it reads. */
const KINDS = [
  ['probe', 'core'],
  ['logger', 'core'],
  ['unit', 'air'],
  ['meter', 'ph'],
  ['meter', 'salt'],
  ['meter', 'aw'],
  ['scale', 'mass'],
] as const

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
  const quantities = useQuantities()
  const main = item.quantities[0] ?? 'core'
  const [quantity, measure] = [quantities.info(main), quantities.measure(main)]
  const ways: Schemas['Calibration']['against'][] =
    quantity?.kind === 'ph' ? ['buffers'] : quantity?.unit === '°C' ? ['ice', 'boiling', 'reference'] : ['reference']
  const [open, setOpen] = useState(false)
  const [chosen, setAgainst] = useState<Schemas['Calibration']['against'] | null>(null)
  const against = chosen ?? ways[0] ?? 'reference'
  const [reference, setReference] = useState('')
  const [found, setFound] = useState('')
  const [left, setLeft] = useState('')
  const [hint, setHint] = useState('')
  const overdue = Date.parse(item.due_at) <= nowMs()
  const needsReference = against === 'reference' || against === 'buffers'
  const number = (text: string) => quantityFrom(text, quantity?.kind ?? 'temperature', measure)
  function submit(event: FormEvent) {
    event.preventDefault()
    const values = [found, ...(left.trim() ? [left] : []), ...(needsReference ? [reference] : [])].map(number)
    if (values.some(Number.isNaN)) return setHint(t('household.numbers', { unit: measure.unit }))
    setHint('')
    calibrate.mutate(
      {
        against,
        reference: needsReference ? number(reference) : null,
        as_found: number(found),
        as_left: left.trim() ? number(left) : null,
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
          {plusMinus(item.uncertainty, quantity?.unit ?? '°C')} ·{' '}
          {t(overdue ? 'household.wasDue' : 'household.due', { day: dayOf(item.due_at) })}
        </span>
        <Button
          className="push"
          variant="outline-primary"
          disabled={!quantity}
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
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
          <p className="quiet small mb-0">{t('household.inUnit', { unit: measure.unit })}</p>
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
  const { known, info } = useQuantities()
  const { choice } = useUnits()
  const [name, setName] = useState('')
  const [index, setIndex] = useState(0)
  const [typed, setTyped] = useState<string | null>(null)
  const [kind, main] = KINDS[index] ?? KINDS[0]
  const quantity = info(main)
  const unit = quantity?.unit ?? '°C'
  const doubt = unit === '°C' ? 'difference' : (quantity?.kind ?? 'number')
  const measure = measureFor(doubt, unit, choice)
  const uncertainty = typed ?? written(measure.toShown(quantity?.good_to ?? 0.5), 4)
  const inside = quantityFrom(uncertainty, doubt, measure)
  function submit(event: FormEvent) {
    event.preventDefault()
    const reads = known.filter((each) => each.kit.includes(kind) && each.unit === unit).map((each) => each.key)
    add.mutate({ name: name.trim(), kind, quantities: reads, uncertainty: inside }, { onSuccess: () => setName('') })
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
          <Form.Select
            value={index}
            onChange={(event) => {
              setIndex(Number(event.target.value))
              setTyped(null)
            }}
          >
            {KINDS.map(([each, reads], at) => (
              <option key={each + reads} value={at}>
                {t(`household.kinds.${each === 'meter' ? reads : each}`)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
        <Labelled label={`${t('household.uncertainty')}, ${measure.unit}`}>
          <Form.Control
            inputMode="decimal"
            required
            isInvalid={!(inside > 0)}
            value={uncertainty}
            onChange={(event) => setTyped(event.target.value)}
          />
        </Labelled>
      </div>
      <ProblemLine problem={add.error} />
      <div>
        <Button type="submit" variant="outline-primary" disabled={add.isPending || !(inside > 0)}>
          {t('household.addInstrument')}
        </Button>
      </div>
    </Form>
  )
}
