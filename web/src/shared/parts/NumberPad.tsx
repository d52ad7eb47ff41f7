import { useEffect, useState, type FormEvent } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { answered, client, keyed, Problem, type Schemas } from '../client/client'
import { useWrite } from '../client/useWrite'
import { momentFromClock, nowMs, timeOf } from '../clock'
import { putAside } from '../outbox'
import { useQuantities } from '../reference'
import { useInstruments } from '../session'
import { type TemperatureUnit, useUnits } from '../units'
import { offered, remember } from '../usual'
import { LookKeys, PadKeys } from './PadKeys'
import { ProblemLine } from './ProblemLine'
import { Waiting } from './Waiting'
import { plusMinus } from '../quantities'

type Quantity = Schemas['ReadingEntry']['quantity']

export interface PadTarget {
  batchId: string
  batchCode: string
  step: string
  quantity: Quantity
  what: string
  check?: string
  expected?: [number, number]
  corrects?: { reading: string; value: string; time: string; takenAt: string }
}

/** Two touches and a number: the pad that logs every check. */
export function NumberPad({ target, onClose }: { target: PadTarget; onClose: () => void }) {
  const { t } = useTranslation()
  const { unit, temp, words } = useUnits()
  const instruments = useInstruments()
  const [text, setText] = useState('')
  const [clock, setClock] = useState('')
  const [chosen, setChosen] = useState('')
  const [turned, setTurned] = useState<TemperatureUnit | null>(null) // for this reading alone
  const [hint, setHint] = useState('')
  const write = useWrite(
    (body: Schemas['ReadingEntry'], key) =>
      answered(
        client.POST('/api/v1/batches/{batch_id}/readings', {
          params: { path: { batch_id: target.batchId }, header: keyed(key) },
          body,
        }),
      ),
    ['batch', 'batches', 'shift'],
    { atOnce: true }, // the pad makes room for the next reading
  )
  const { info, known, said, unitOf } = useQuantities()
  // nothing is typed before its unit is known, nor sent with a guess of it
  const loading = known.length === 0 || instruments.isPending
  const wanted = info(target.quantity)?.kit[0]
  const fitting = (instruments.data ?? [])
    .filter((item) => item.quantities.includes(target.quantity))
    .sort((a, b) => Number(b.kind === wanted) - Number(a.kind === wanted))
  const best = offered(fitting, `instrument.${target.quantity}`, (item) => Date.parse(item.due_at) > nowMs())
  const instrument = chosen || best?.id || ''
  const problem = write.error
  const asked = problem instanceof Problem && problem.code === 'ask_first' ? problem : null
  const byEye = info(target.quantity)?.kind === 'flag'
  const degrees = info(target.quantity)?.kind === 'temperature'
  const padUnit = degrees ? (turned ?? unit) : unitOf(target.quantity)

  const bandOf = ([low, high]: readonly [number, number]) =>
    t('batch.expectedBand', { low: said(target.quantity, low), high: said(target.quantity, high) })

  function send(over: Partial<Schemas['ReadingEntry']> = {}) {
    const value = over.value ?? Number(text.replace('−', '-').replace(',', '.'))
    if ((over.value === undefined && !text) || Number.isNaN(value)) return setHint(t('pad.empty'))
    if (!instrument && !byEye) return setHint(t('pad.wait'))
    const moment = clock ? momentFromClock(clock) : target.corrects ? Date.parse(target.corrects.takenAt) : nowMs()
    if (moment === null) return setHint(t('pad.clockWrong'))
    setHint('')
    write.mutate(
      {
        step: target.step,
        quantity: target.quantity,
        value,
        unit: padUnit,
        taken_at: takenAt(moment),
        instrument: byEye ? 'eyes' : instrument,
        check: target.check ?? '',
        corrects: target.corrects?.reading ?? null,
        confirmed: false,
        note: '',
        ...over,
      },
      {
        onSuccess: () => {
          if (!byEye) remember(`instrument.${target.quantity}`, instrument)
          onClose()
        },
      },
    )
  }

  /** Keep it on this tablet; it goes by itself when the server is back. Under the same key: it lands once. */
  function later() {
    if (!write.variables) return
    putAside({
      key: write.keyOf(write.variables),
      batchId: target.batchId,
      batchCode: target.batchCode,
      what: target.what,
      body: write.variables,
    })
    onClose()
  }

  // a retry must carry the same moment, or it would be another entry
  const [held, setHeld] = useState<{ for: string; at: string } | null>(null)
  function takenAt(moment: number): string {
    const name = `${text}|${clock}|${target.check ?? ''}`
    if (held?.for === name) return held.at
    const at = new Date(moment).toISOString()
    setHeld({ for: name, at })
    return at
  }

  function press(key: string) {
    write.reset()
    if (key === '−') setText((now) => (now.startsWith('−') ? now.slice(1) : `−${now}`))
    else if (key === '.') setText((now) => (/[.,]/.test(now) ? now : `${now || '0'}.`))
    else setText((now) => (now.length < 7 ? now + key : now))
  }

  function submit(event: FormEvent) {
    event.preventDefault()
    send()
  }

  // whoever is quicker than the field finds their digits in it; they are sent once they have been seen
  useEffect(() => {
    if (!loading) return
    function early(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey) return
      if (event.key === 'Backspace') setText((now) => now.slice(0, -1))
      else if (/^[0-9.,-]$/.test(event.key)) setText((now) => (now + event.key.replace('-', '−')).slice(0, 8))
    }
    window.addEventListener('keydown', early)
    return () => window.removeEventListener('keydown', early)
  }, [loading])

  const suggestion = problem instanceof Problem ? problem.fields.suggestion_c : null
  return (
    <Modal
      show
      onHide={onClose}
      centered
      backdrop={text ? 'static' : true}
      keyboard={!text}
      aria-labelledby="pad-title"
    >
      <Modal.Header closeButton>
        <div>
          <Modal.Title as="h2" id="pad-title">
            {target.what}
          </Modal.Title>
          <p className="quiet mb-0">
            {target.batchCode}
            {target.expected && !byEye && ` · ${bandOf(target.expected)}`}
          </p>
        </div>
      </Modal.Header>
      {loading ? (
        <Modal.Body>
          <Waiting />
        </Modal.Body>
      ) : (
        <Form onSubmit={submit}>
          <Modal.Body>
            {target.corrects && (
              <p>{t('pad.correcting', { value: target.corrects.value, time: target.corrects.time })}</p>
            )}
            {byEye ? (
              <LookKeys onSee={(right) => send({ value: right ? 1 : 0 })} />
            ) : (
              <div className="pad-screen">
                <input
                  aria-label={target.what}
                  inputMode="none"
                  autoComplete="off"
                  autoFocus
                  value={text}
                  onChange={(event) => {
                    write.reset()
                    setText(
                      event.target.value
                        .replace('-', '−')
                        .replace(/[^0-9.,−]/g, '')
                        .slice(0, 8),
                    )
                  }}
                />
                <Button
                  variant="link"
                  className="unit"
                  disabled={!degrees}
                  aria-label={t('pad.turn', { unit: padUnit })}
                  onClick={() => setTurned(padUnit === '°C' ? '°F' : '°C')}
                >
                  {padUnit}
                </Button>
              </div>
            )}
            {!byEye && <PadKeys onPress={press} />}
            <div className="pad-facts">
              {!byEye && (
                <Form.Group controlId="pad-instrument">
                  <Form.Label>{t('pad.instrument')}</Form.Label>
                  <Form.Select value={instrument} onChange={(event) => setChosen(event.target.value)}>
                    {fitting.map((item) => (
                      <option key={item.id} value={item.id}>
                        {item.name} {plusMinus(item.uncertainty, degrees ? '°C' : padUnit)}
                        {Date.parse(item.due_at) < nowMs() ? ` · ${t('pad.overdue')}` : ''}
                      </option>
                    ))}
                  </Form.Select>
                </Form.Group>
              )}
              <Form.Group controlId="pad-time">
                <Form.Label>{t('pad.time')}</Form.Label>
                <Form.Control
                  value={clock}
                  placeholder={`${t('pad.now')}, ${timeOf(nowMs())}`}
                  onChange={(event) => setClock(event.target.value)}
                />
              </Form.Group>
            </div>
            {hint && (
              <p className="hot mt-2 mb-0" role="alert">
                {hint}
              </p>
            )}
            {asked ? (
              <div className="asked" role="alert">
                <p>{words(asked.message)}</p>
                {typeof suggestion === 'number' && padUnit === '°C' && (
                  <Button onClick={() => send({ unit: '°F', confirmed: true })}>
                    {t('pad.fahrenheit', { value: temp(suggestion) })}
                  </Button>
                )}
                <Button variant="outline-primary" onClick={() => send({ confirmed: true })}>
                  {t('pad.yes')}
                </Button>
                <Button
                  variant="link"
                  onClick={() => {
                    write.reset()
                    setText('')
                  }}
                >
                  {t('pad.change')}
                </Button>
              </div>
            ) : (
              problem && (
                <div className="mt-3">
                  <ProblemLine problem={problem} />
                  {typeof suggestion === 'number' && padUnit === '°C' && (
                    <Button className="mt-2" onClick={() => send({ unit: '°F', confirmed: true })}>
                      {t('pad.fahrenheit', { value: temp(suggestion) })}
                    </Button>
                  )}
                </div>
              )
            )}
          </Modal.Body>
          <Modal.Footer>
            {problem instanceof Problem && problem.code === 'offline' && (
              <Button variant="outline-primary" className="flex-fill" onClick={later}>
                {t('pad.later')}
              </Button>
            )}
            {!byEye && (
              <>
                <Button
                  variant="outline-primary"
                  onClick={() => {
                    write.reset()
                    setText((now) => now.slice(0, -1))
                  }}
                >
                  {t('pad.delete')}
                </Button>
                <Button type="submit" className="flex-fill" disabled={write.isPending || !text}>
                  {problem instanceof Problem && problem.code === 'offline' ? t('pad.sendAgain') : t('pad.save')}
                </Button>
              </>
            )}
          </Modal.Footer>
        </Form>
      )}
    </Modal>
  )
}
