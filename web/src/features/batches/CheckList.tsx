import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { LEAST_LETTERS, lettersOf } from '../../shared/reasons'
import { nowMs, whenOf } from '../../shared/clock'
import type { PadTarget } from '../../shared/parts/usePad'
import { Fold } from '../../shared/parts/Fold'
import { StateMark } from '../../shared/parts/StateMark'
import { useQuantities } from '../../shared/reference'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { type Batch, type Check, useAnswerCheck } from './api'
import { targetOf } from './targets'

const AHEAD_MS = 36 * 3600 * 1000
const MOST_AHEAD = 6

/** The schedule of checks with clock times. */
export function CheckList({ batch, onLog }: { batch: Batch; onLog: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const near = batch.checks.filter(
    (check) => Date.parse(check.due_at) < nowMs() + AHEAD_MS && Date.parse(check.due_at) > nowMs() - AHEAD_MS,
  )
  const taken = (check: Check) => check.state === 'done' || check.state === 'missed'
  // what is still to do comes first; what is done follows, the latest on top
  const pool = near.length ? near : batch.checks.slice(-MOST_AHEAD * 2)
  const open = pool.filter((check) => !taken(check))
  const overdue = open.filter((check) => check.state === 'late' || check.state === 'due')
  const ahead = open.filter((check) => !overdue.includes(check)).slice(0, MOST_AHEAD)
  const answered = (check: Check) => check.state === 'done' || Boolean(check.answer)
  const over = pool.filter((check) => taken(check) && answered(check)).reverse()
  // nothing that is due hides what comes next; what was missed waits for its reason
  const shown = [...overdue, ...pool.filter((check) => taken(check) && !answered(check)), ...ahead]
  return (
    <section className="sheet">
      <h2>{t('batch.checks')}</h2>
      <Rows batch={batch} checks={batch.closed ? [...shown, ...over] : shown} onLog={onLog} />
      {!batch.closed && over.length > 0 && (
        <Fold title={t('batch.checksDone')} count={over.length}>
          <Rows batch={batch} checks={over} onLog={onLog} />
        </Fold>
      )}
      {onLog && <Unscheduled batch={batch} onLog={onLog} />}
    </section>
  )
}

interface RowsProps {
  batch: Batch
  checks: readonly Check[]
  onLog: ((target: PadTarget) => void) | undefined
}

function Rows({ batch, checks, onLog }: RowsProps) {
  const { t } = useTranslation()
  const { said } = useQuantities()
  const byProbe = new Set(batch.probes.map((each) => each.binding))
  const readings = new Map(batch.readings.map((reading) => [reading.reading, reading]))
  return (
    <ul className="checks">
      {checks.map((check) => {
        const reading = check.reading ? readings.get(check.reading) : undefined
        return (
          <li key={check.id}>
            <StateMark state={check.state} bare size={20} />
            <div>
              <p className="strong">{check.what}</p>
              <p className="quiet">
                {check.step_name} ·{' '}
                {check.planned
                  ? t('batch.planned', { time: whenOf(check.due_at) })
                  : t('batch.due', { time: whenOf(check.due_at) })}
                {check.state === 'late' || check.state === 'missed' ? ` · ${t(`state.${check.state}`)}` : ''}
              </p>
            </div>
            {reading ? (
              <span className="strong">{said(reading.quantity, reading.value)}</span>
            ) : check.file ? (
              <span className="quiet">{t(byProbe.has(check.file) ? 'batch.byProbe' : 'batch.byFile')}</span>
            ) : (
              <PadButton check={check} batch={batch} onLog={onLog} />
            )}
            {check.state === 'missed' && <Missed check={check} batch={batch} mayAnswer={Boolean(onLog)} />}
          </li>
        )
      })}
    </ul>
  )
}

/** Why a check was missed: said once, printed for good. */
function Missed({ check, batch, mayAnswer }: { check: Check; batch: Batch; mayAnswer: boolean }) {
  const { t } = useTranslation()
  const answer = useAnswerCheck(batch.batch_id)
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (check.answer)
    return <p className="quiet missed-why">{t('batch.missedSaid', { reason: check.answer, by: check.answered_by })}</p>
  if (!mayAnswer) return null
  function submit(event: FormEvent) {
    event.preventDefault()
    answer.mutate({ check: check.id, reason: reason.trim() })
  }
  if (!open)
    return (
      <Button variant="link" className="missed-why" onClick={() => setOpen(true)}>
        {t('batch.missedWhy')}
      </Button>
    )
  return (
    <Form onSubmit={submit} className="stack tight missed-why">
      <Form.Control
        as="textarea"
        rows={2}
        autoFocus
        aria-label={t('batch.missedReason', { what: check.what })}
        placeholder={t('batch.missedHint')}
        maxLength={1000}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" variant="outline-primary" disabled={lettersOf(reason) < LEAST_LETTERS || answer.isPending}>
        {t('batch.missedSave')}
      </Button>
      <ProblemLine problem={answer.error} keepHere={answer.keepHere} />
    </Form>
  )
}

const OTHERS = ['core', 'bath', 'air', 'ph'] as const

/** Any reading at any time, of the step that runs or ran last; and whatever else the plan measures. */
function Unscheduled({ batch, onLog }: { batch: Batch; onLog: (target: PadTarget) => void }) {
  const { t } = useTranslation()
  const step = batch.blocks.findLast((block) => block.started)
  if (!step) return null
  return (
    <div className="row-line flex-wrap mt-2">
      <span className="quiet w-100">{t('batch.another', { name: step.name })}</span>
      {[...new Set([...OTHERS, ...batch.checks.map((check) => check.quantity)])].map((quantity) => (
        <Button
          key={quantity}
          variant="outline-primary"
          size="sm"
          onClick={() =>
            onLog({
              batchId: batch.batch_id,
              batchCode: batch.code,
              step: step.step,
              quantity,
              what: `${t(`quantity.${quantity}`)}, ${step.name}`,
            })
          }
        >
          {t(`quantity.${quantity}`)}
        </Button>
      ))}
    </div>
  )
}

function PadButton({
  check,
  batch,
  onLog,
}: {
  check: Check
  batch: Batch
  onLog: ((target: PadTarget) => void) | undefined
}) {
  const { t } = useTranslation()
  const { unitOf } = useQuantities()
  if (!onLog || check.planned || check.answer) return null
  return (
    <Button
      variant={check.state === 'upcoming' ? 'outline-primary' : 'primary'}
      className="to-pad"
      aria-label={[t('batch.log', { what: check.what }), unitOf(check.quantity), whenOf(check.due_at)]
        .filter(Boolean)
        .join(', ')}
      onClick={() => onLog(targetOf(batch, check))}
    >
      {unitOf(check.quantity) || t('batch.look')}
    </Button>
  )
}
