import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { lengthOf, whenOf } from '../../shared/clock'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { plusMinus } from '../../shared/quantities'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import type { TraceOptions } from './api'
import type { TraceFile } from './useTraceFile'

type Trace = Schemas['Trace']
const ORDERS = ['day_first', 'month_first', 'year_first'] as const

/** From when to when, how often, how many. */
export function Span({ trace }: { trace: Trace }) {
  const { t } = useTranslation()
  return (
    <p className="mb-0">
      {t('trace.spans', {
        first: whenOf(trace.first_s * 1000),
        last: whenOf(trace.last_s * 1000),
        interval: lengthOf(trace.interval_s),
        count: trace.channels[0]?.values.length ?? 0,
      })}
    </p>
  )
}

/** How far the file's clock was moved, and why; a lead says so. */
export function ClockMoved({ file }: { file: TraceFile }) {
  const { t } = useTranslation()
  if (!file.options.shift_s) return null
  return (
    <Form.Group controlId="trace-reason">
      <p className="mb-1 strong">{t('trace.moved', { time: lengthOf(file.options.shift_s) })}</p>
      <Form.Label>{t(file.isLead ? 'trace.movedWhy' : 'trace.movedLead')}</Form.Label>
      {file.isLead && (
        <Form.Control
          as="textarea"
          rows={2}
          maxLength={1000}
          value={file.reason}
          onChange={(event) => file.setReason(event.target.value)}
        />
      )}
    </Form.Group>
  )
}

/** Why it was not kept, with what can be done about it. */
export function Refused({ file }: { file: TraceFile }) {
  const { t } = useTranslation()
  const { clockOff } = file
  if (!file.problem) return null
  return (
    <div ref={(element) => element?.scrollIntoView({ block: 'nearest' })}>
      <ProblemLine problem={file.problem} />
      {clockOff !== null && (
        <Button className="mt-2" onClick={() => file.moveClock(clockOff)}>
          {t('trace.shift')}
        </Button>
      )}
      {file.differs && (
        <Button className="mt-2" variant="outline-primary" onClick={() => file.keep(true)}>
          {t('trace.allTheSame')}
        </Button>
      )}
    </div>
  )
}

/** What was taken for granted: what is not certain first; and how dates read, where that is not sure. */
export function Assumed({ file, trace }: { file: TraceFile; trace: Trace }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const certain = trace.assumptions.filter((each) => each.certain)
  const open = trace.assumptions.filter((each) => !each.certain)
  return (
    <div>
      <h3>{t('trace.assumed')}</h3>
      <ul className="assumed">
        {open.map((each) => (
          <li key={each.sentence} className="strong">
            {words(each.sentence)} <span className="check-this">{t('trace.check')}</span>
          </li>
        ))}
        <li className="quiet">{certain.map((each) => words(each.sentence)).join(' ')}</li>
      </ul>
      {(open.some((each) => each.about === 'dates') || trace.assumptions.some((each) => each.about === 'zone')) && (
        <DateOrder file={file} />
      )}
    </div>
  )
}

function DateOrder({ file }: { file: TraceFile }) {
  const { t } = useTranslation()
  return (
    <Form.Group controlId="trace-dates" className="narrow">
      <Form.Label>{t('trace.dates')}</Form.Label>
      <Form.Select
        value={file.options.date_order ?? ''}
        onChange={(event) =>
          file.read({
            ...file.options,
            date_order: (event.target.value || undefined) as NonNullable<TraceOptions['date_order']>,
          })
        }
      >
        <option value="">{t('trace.sure')}</option>
        {ORDERS.map((order) => (
          <option key={order} value={order}>
            {t(`trace.${order}`)}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
}

/** What of the file was left out, and why. */
export function LeftOut({ notes }: { notes: Trace['notes'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (notes.length === 0) return null
  return (
    <div>
      <h3>{t('trace.left')}</h3>
      <ul className="assumed">
        {notes.map((note) => (
          <li key={note}>{words(note)}</li>
        ))}
      </ul>
    </div>
  )
}

/** Which step it is of, and what recorded it. */
export function OfWhat({ file }: { file: TraceFile }) {
  const { t } = useTranslation()
  const { info } = useQuantities()
  return (
    <div className="pad-facts">
      <Form.Group controlId="trace-step">
        <Form.Label>{t('trace.forStep')}</Form.Label>
        <Form.Select value={file.step} onChange={(event) => file.setStep(event.target.value)}>
          {file.steps.map((each) => (
            <option key={each.step} value={each.step}>
              {each.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId="trace-logger">
        <Form.Label>{t('trace.logger')}</Form.Label>
        <Form.Select value={file.loggers.chosen} onChange={(event) => file.loggers.choose(event.target.value)}>
          {file.loggers.all.map((item) => (
            <option key={item.id} value={item.id}>
              {item.name} {plusMinus(item.uncertainty, info(file.takes)?.unit ?? '°C')}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    </div>
  )
}
