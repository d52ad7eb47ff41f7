import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { LEAST_LETTERS, lettersOf } from '../../shared/reasons'
import { Problem, type Schemas } from '../../shared/client/client'
import { lengthOf, whenOf } from '../../shared/clock'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useQuantities } from '../../shared/reference'
import { useInstruments, useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Batch, previewTrace, type TraceOptions, useAttachTrace } from './api'
import { plusMinus } from '../../shared/quantities'

type Channel = Schemas['Channel']
const ORDERS = ['day_first', 'month_first', 'year_first'] as const

/** How a file was read, what was assumed, and the chance to correct it before it is kept. */
export function TraceDialog({ batch, file, onClose }: { batch: Batch; file: File; onClose: () => void }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { isLead } = useRole()
  const [reason, setReason] = useState('')
  const instruments = useInstruments()
  const steps = batch.blocks.filter((block) => block.started && block.takes)
  const [options, setOptions] = useState<TraceOptions>({})
  const [step, setStep] = useState(
    steps.find((each) => !batch.traces.some((trace) => trace.step === each.step))?.step ?? steps.at(-1)?.step ?? '',
  )
  const [logger, setLogger] = useState('')
  const preview = useQuery({
    queryKey: ['preview', file.name, file.size, file.lastModified, options],
    queryFn: () => previewTrace(file, options),
    retry: false,
    placeholderData: (before) => before,
  })
  const attach = useAttachTrace(batch.batch_id)
  const takes = steps.find((each) => each.step === step)?.takes ?? ''
  const { info } = useQuantities()
  const loggers = (instruments.data ?? []).filter((item) => item.quantities.includes(takes))
  const likely = loggers.find((item) => item.kind === 'logger') ?? loggers[0]
  const instrument = (loggers.find((item) => item.id === logger) ?? likely)?.id ?? ''
  const trace = preview.data
  const stepName = steps.find((each) => each.step === step)?.name ?? ''
  const clockShift = attach.error instanceof Problem ? attach.error.fields.suggestion_shift_s : null

  const differs = attach.error instanceof Problem && attach.error.fields.reason === 'differs'

  function send(next: TraceOptions = options, confirmed = false) {
    attach.mutate(
      { file, name: file.name, step, instrument, options: next, reason: reason.trim(), confirmed },
      { onSuccess: onClose },
    )
  }
  function change(next: TraceOptions) {
    attach.reset()
    setOptions(next)
  }
  function moveClock(seconds: number) {
    const next = { ...options, shift_s: (options.shift_s ?? 0) + seconds }
    attach.reset()
    setOptions(next)
  }
  return (
    <Modal show onHide={onClose} size="lg" centered scrollable aria-labelledby="trace-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="trace-title">
          {t('trace.title', { name: file.name })}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stack">
        {preview.isPending && (
          <p role="status" className="quiet">
            {t('trace.reading')}
          </p>
        )}
        <ProblemLine problem={preview.error} />
        {trace && (
          <>
            <p className="mb-0">
              {t('trace.spans', {
                first: whenOf(trace.first_s * 1000),
                last: whenOf(trace.last_s * 1000),
                interval: lengthOf(trace.interval_s),
                count: trace.channels[0]?.values.length ?? 0,
              })}
            </p>
            {options.shift_s ? (
              <Form.Group controlId="trace-reason">
                <p className="mb-1 strong">{t('trace.moved', { time: lengthOf(options.shift_s) })}</p>
                <Form.Label>{t(isLead ? 'trace.movedWhy' : 'trace.movedLead')}</Form.Label>
                {isLead && (
                  <Form.Control
                    as="textarea"
                    rows={2}
                    maxLength={1000}
                    value={reason}
                    onChange={(event) => setReason(event.target.value)}
                  />
                )}
              </Form.Group>
            ) : null}
            {attach.error && (
              <div ref={(element) => element?.scrollIntoView({ block: 'nearest' })}>
                <ProblemLine problem={attach.error} />
                {typeof clockShift === 'number' && (
                  <Button className="mt-2" onClick={() => moveClock(clockShift)}>
                    {t('trace.shift')}
                  </Button>
                )}
                {differs && (
                  <Button className="mt-2" variant="outline-primary" onClick={() => send(options, true)}>
                    {t('trace.allTheSame')}
                  </Button>
                )}
              </div>
            )}
            <Channels channels={trace.channels} options={options} onChange={change} />
            <div>
              <h3>{t('trace.assumed')}</h3>
              <ul className="assumed">
                {trace.assumptions
                  .filter((each) => !each.certain)
                  .map((each) => (
                    <li key={each.sentence} className="strong">
                      {words(each.sentence)} <span className="check-this">{t('trace.check')}</span>
                    </li>
                  ))}
                <li className="quiet">
                  {trace.assumptions
                    .filter((each) => each.certain)
                    .map((each) => each.sentence)
                    .join(' ')}
                </li>
              </ul>
              {trace.assumptions.some((each) => each.about === 'zone' || (each.about === 'dates' && !each.certain)) && (
                <Form.Group controlId="trace-dates" className="narrow">
                  <Form.Label>{t('trace.dates')}</Form.Label>
                  <Form.Select
                    value={options.date_order ?? ''}
                    onChange={(event) =>
                      change({
                        ...options,
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
              )}
            </div>
            {trace.notes.length > 0 && (
              <div>
                <h3>{t('trace.left')}</h3>
                <ul className="assumed">
                  {trace.notes.map((note) => (
                    <li key={note}>{words(note)}</li>
                  ))}
                </ul>
              </div>
            )}
            <div className="pad-facts">
              <Form.Group controlId="trace-step">
                <Form.Label>{t('trace.forStep')}</Form.Label>
                <Form.Select
                  value={step}
                  onChange={(event) => {
                    attach.reset()
                    setStep(event.target.value)
                  }}
                >
                  {steps.map((each) => (
                    <option key={each.step} value={each.step}>
                      {each.name}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
              <Form.Group controlId="trace-logger">
                <Form.Label>{t('trace.logger')}</Form.Label>
                <Form.Select value={instrument} onChange={(event) => setLogger(event.target.value)}>
                  {loggers.map((item) => (
                    <option key={item.id} value={item.id}>
                      {item.name} {plusMinus(item.uncertainty, info(takes)?.unit ?? '°C')}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
            </div>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          {t('trace.cancel')}
        </Button>
        <Button
          disabled={
            !trace ||
            !step ||
            !instrument ||
            Boolean(options.shift_s && (!isLead || lettersOf(reason) < LEAST_LETTERS)) ||
            attach.isPending ||
            preview.isFetching
          }
          onClick={() => send()}
        >
          {t('trace.attach', { name: stepName })}
        </Button>
      </Modal.Footer>
    </Modal>
  )
}

function Channels({
  channels,
  options,
  onChange,
}: {
  channels: readonly Channel[]
  options: TraceOptions
  onChange: (next: TraceOptions) => void
}) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const { known } = useQuantities()
  return (
    <table className="table">
      <thead>
        <tr>
          <th>{t('trace.channel')}</th>
          <th>{t('trace.is')}</th>
          <th>{t('trace.unit')}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {channels.map((channel) => {
          const [low, high] = [Math.min(...channel.values), Math.max(...channel.values)]
          const range =
            channel.unit === '°C' ? [temp(low), temp(high)] : [`${low} ${channel.unit}`, `${high} ${channel.unit}`]
          return (
            <tr key={channel.name}>
              <td className="strong">{channel.name}</td>
              <td>
                <Form.Select
                  aria-label={`${t('trace.is')}: ${channel.name}`}
                  value={channel.quantity}
                  onChange={(event) =>
                    onChange({ ...options, quantities: { ...options.quantities, [channel.name]: event.target.value } })
                  }
                >
                  {[...known.map((each) => each.key), 'unknown'].map((quantity) => (
                    <option key={quantity} value={quantity}>
                      {t(`quantity.${quantity}` as never) as string}
                    </option>
                  ))}
                </Form.Select>
              </td>
              <td>
                {channel.unit === '°C' ? (
                  <Form.Select
                    aria-label={`${t('trace.unit')}: ${channel.name}`}
                    value={options.units?.[channel.name] ?? ''}
                    onChange={(event) =>
                      onChange({
                        ...options,
                        units: { ...options.units, [channel.name]: (event.target.value || '°C') as '°C' | '°F' },
                      })
                    }
                  >
                    <option value="">{t('trace.sure')}</option>
                    <option value="°C">°C</option>
                    <option value="°F">°F</option>
                  </Form.Select>
                ) : (
                  channel.unit
                )}
              </td>
              <td className="quiet">{t('trace.range', { low: range[0], high: range[1] })}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
