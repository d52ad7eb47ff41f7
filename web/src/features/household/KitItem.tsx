import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import type { Schemas } from '../../shared/client/client'
import { dayOf, nowMs } from '../../shared/clock'
import { Hint } from '../../shared/parts/Hint'
import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { plusMinus } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { Instrument } from './api'
import { type Checking, useChecking } from './useChecking'

/** One instrument: how surely it reads, when its check is due, and the check itself one touch away. */
export function KitItem({ item }: { item: Instrument }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const checking = useChecking(item)
  const { calibrate, quantity } = checking
  const [open, setOpen] = useState(false)
  const overdue = Date.parse(item.due_at) <= nowMs()
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
      {open && <CheckForm checking={checking} />}
      {calibrate.data && (
        <p className={calibrate.data.in_use ? 'strong mb-0' : 'strong hot mb-0'} role="status">
          {words(calibrate.data.sentence)}
        </p>
      )}
      {(calibrate.data?.batches ?? []).length > 0 && <ReadWithIt batches={calibrate.data?.batches ?? []} />}
      <ProblemLine problem={calibrate.error} />
    </li>
  )
}

/** The batches it read since its last good check: each leads to its record, those that change want a decision. */
function ReadWithIt({ batches }: { batches: readonly Schemas['DoubtedBatch'][] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <>
      <p className="strong mb-0">{t('household.readWithIt')}</p>
      <ul className="mb-0">
        {batches.map((each) => (
          <li key={each.batch_id}>
            <Link to={`/batches/${each.batch_id}`}>
              {each.code} {words(each.name)}
            </Link>
            <span className={each.changes ? 'hot strong' : 'quiet'}>
              {' '}
              {t(each.changes ? 'household.changesIt' : 'household.changesNothing')}
            </span>
          </li>
        ))}
      </ul>
    </>
  )
}

function CheckForm({ checking }: { checking: Checking }) {
  const { t } = useTranslation()
  const { against, choose, ways, measure } = checking
  function submit(event: FormEvent) {
    event.preventDefault()
    checking.submit()
  }
  return (
    <Form onSubmit={submit} className="stack tight">
      <div className="pad-facts">
        <Labelled label={t('household.against')}>
          <Form.Select value={against} onChange={(event) => choose(event.target.value as typeof against)}>
            {ways.map((way) => (
              <option key={way} value={way}>
                {t(`household.ways.${way}`)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
        {checking.needsReference && (
          <Shown label={t('household.reference')} value={checking.reference} onChange={checking.setReference} />
        )}
      </div>
      <div className="pad-facts">
        <Shown label={t('household.found')} value={checking.found} onChange={checking.setFound} />
        <Shown label={t('household.leftAt')} value={checking.left} onChange={checking.setLeft} />
        <Button type="submit" disabled={checking.calibrate.isPending}>
          {t('household.save')}
        </Button>
      </div>
      <p className="quiet small mb-0">{t('household.inUnit', { unit: measure.unit })}</p>
      <Hint text={checking.hint} />
    </Form>
  )
}

/** What an instrument, or its reference, showed. */
function Shown({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <Labelled label={label}>
      <Form.Control inputMode="decimal" value={value} onChange={(event) => onChange(event.target.value)} />
    </Labelled>
  )
}
