import '../../shared/text/benchWords'

import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useParams } from 'react-router'

import { Problem } from '../../shared/client/client'
import { momentFromClock, nowMs, timeOf, whenOf } from '../../shared/clock'
import { NumberPad } from '../../shared/parts/NumberPad'
import type { PadTarget } from '../../shared/parts/usePad'
import { PageBar } from '../../shared/parts/PageBar'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Batch, type StepMark, useBatch, useStepMark } from './api'
import { BatchChart } from './BatchChart'
import { BatchSheet } from './BatchSheet'
import { CheckList } from './CheckList'
import { Deviations } from './Deviations'
import { Family, UseBy } from './Family'
import { LimitList } from './LimitList'
import { Readings } from './Readings'
import { Review } from './Review'
import { targetOf } from './targets'
import { Traces } from './Traces'
import { valueOf } from '../../shared/quantities'

export function BatchPage() {
  const { batchId = '' } = useParams()
  const { t } = useTranslation()
  const query = useBatch(batchId)
  const { mayLog } = useRole()
  useUnits() // the masses and doubts below follow the units
  const [target, setTarget] = useState<PadTarget | null>(null)
  const batch = query.data
  if (!batch) return <Waiting problem={query.error} again={() => void query.refetch()} />
  const open = !batch.closed
  return (
    <>
      <PageBar
        title={`${batch.code}  ${batch.plan_name}`}
        sub={t(batch.mass_kg ? 'batch.sub' : 'batch.subPortions', {
          packs: batch.packs,
          mass: valueOf(batch.mass_kg, 'kg'),
          version: batch.plan_version,
          when: whenOf(batch.started_at),
          by: batch.started_by,
        })}
      >
        <Exports batch={batch} />
      </PageBar>
      <div className="page live">
        {query.error && <ProblemLine problem={query.error} again={() => void query.refetch()} />}
        <UseBy batch={batch} />
        <Deviations batch={batch} />
        <NextStep batch={batch} onLog={open && mayLog ? setTarget : undefined} />
        <BatchSheet batch={batch} />
      </div>
      <div className="page two">
        <div className="stack">
          <BatchChart batch={batch} />
          <LimitList batch={batch} />
          <Readings batch={batch} onCorrect={open && mayLog ? setTarget : undefined} />
          <Traces batch={batch} mayAttach={open && mayLog} />
        </div>
        <div className="stack sticky">
          <Family batch={batch} />
          <CheckList batch={batch} onLog={open && mayLog ? setTarget : undefined} />
          <Review batch={batch} />
        </div>
      </div>
      <p className="page caution">{t('caution')}</p>
      {target && <NumberPad target={target} onClose={() => setTarget(null)} />}
    </>
  )
}

function Exports({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  return (
    <nav className="row-line exports" aria-label={t('batch.record')}>
      <span className="quiet">{t('batch.record')}</span>
      {(['pdf', 'csv', 'json'] as const).map((kind) => (
        <a key={kind} className="btn btn-link" href={`/api/v1/batches/${batch.batch_id}/record.${kind}`} download>
          {t(`batch.${kind}`)}
        </a>
      ))}
    </nav>
  )
}

/** The step that runs, and the ones that may begin now. */
function NextStep({ batch, onLog }: { batch: Batch; onLog: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const { mayLog } = useRole()
  const mark = useStepMark(batch.batch_id)
  const [clock, setClock] = useState('')
  const [hint, setHint] = useState('')
  const [last, setLast] = useState<Omit<StepMark, 'at' | 'confirmed'> | null>(null)
  const { words } = useUnits()
  const nameOf = (id: string) => words(batch.plan.steps.find((step) => step.id === id)?.name ?? id)
  const runs = batch.blocks.filter((block) => batch.running.includes(block.step))
  const running = runs.at(-1)
  if (batch.closed) return null
  const startable = [...batch.startable]
  function go(step: string, way: 'start' | 'finish', beside = false, confirmed = false) {
    const moment = clock ? momentFromClock(clock) : null
    if (clock && moment === null) return setHint(t('pad.clockWrong'))
    setHint('')
    setLast({ step, way, beside })
    mark.mutate(
      { step, way, at: moment === null ? null : new Date(moment).toISOString(), confirmed, beside },
      { onSuccess: () => setClock('') },
    )
  }
  const main = startable.at(-1)
  return (
    <section className="sheet next-bar">
      <h2 className="mb-0">
        {running
          ? runs.map((run) => t('batch.running', { name: run.name, time: timeOf(run.starts) })).join(', ')
          : main
            ? t('batch.waiting', { name: nameOf(startable[0] ?? main) })
            : t('shift.review')}
      </h2>
      {mayLog && (
        <div className="next-doing">
          <NextCheck batch={batch} onLog={onLog} />
          {startable.map((step, index) => (
            <Button
              key={step}
              variant={index === 0 && !batch.deviations.some((d) => !d.decision) ? 'primary' : 'outline-primary'}
              disabled={mark.isPending}
              onClick={() => go(step, 'start')}
            >
              {t('batch.begin', { name: nameOf(step) })}
            </Button>
          ))}
          {running && startable.length === 0 && (
            <Button disabled={mark.isPending} onClick={() => go(running.step, 'finish')}>
              {t('batch.finish', { name: running.name })}
            </Button>
          )}
          {running && startable.length > 0 && (
            <Button variant="link" disabled={mark.isPending} onClick={() => go(startable[0] ?? '', 'start', true)}>
              {t('batch.beginBeside', { name: nameOf(startable[0] ?? '') })}
            </Button>
          )}
          {(startable.length > 0 ? runs : runs.slice(0, -1)).map((run) => (
            <Button key={run.step} variant="link" disabled={mark.isPending} onClick={() => go(run.step, 'finish')}>
              {t('batch.finish', { name: run.name })}
            </Button>
          ))}
          <Form.Group controlId="step-at">
            <Form.Label className="quiet small mb-1">{t('batch.stepAt')}</Form.Label>
            <Form.Control
              value={clock}
              placeholder={`${t('pad.now')}, ${timeOf(nowMs())}`}
              onChange={(event) => setClock(event.target.value)}
            />
          </Form.Group>
          {hint && (
            <p className="hot mb-0" role="alert">
              {hint}
            </p>
          )}
          <ProblemLine problem={mark.error} />
          {mark.error instanceof Problem && mark.error.code === 'ask_first' && last && (
            <Button variant="outline-primary" onClick={() => go(last.step, last.way, last.beside, true)}>
              {t('batch.rightTime')}
            </Button>
          )}
        </div>
      )}
    </section>
  )
}

/** The check that is due next, one touch away. */
function NextCheck({ batch, onLog }: { batch: Batch; onLog: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const next = batch.checks.find((check) => ['late', 'due'].includes(check.state) && !check.planned)
  if (!next || !onLog) return null
  return <Button onClick={() => onLog(targetOf(batch, next))}>{t('batch.log', { what: next.what })}</Button>
}
