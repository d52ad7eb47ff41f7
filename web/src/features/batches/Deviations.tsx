import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { nowMs, whenOf } from '../../shared/clock'
import type { Schemas } from '../../shared/client/client'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold } from '../../shared/parts/WorkingView'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import type { PadTarget } from '../../shared/parts/usePad'
import { type Batch, type Deviation, useDecide, useRecordAction } from './api'
import { targetOf } from './targets'

type Ground = Schemas['GroundView']['key']

// what is read to tell of a limit's quantity
const READ: Record<string, PadTarget['quantity']> = {
  core: 'core', bath: 'bath', air: 'air', ph: 'ph', salt: 'salt', aw: 'aw', loss: 'mass',
} // prettier-ignore

const CAUSES = {
  forecast: 'batch.forecastCause',
  breach: 'batch.breachCause',
  unproved: 'batch.unprovedCause',
  skipped: 'batch.skippedCause',
  too_short: 'batch.too_shortCause',
  too_long: 'batch.too_longCause',
  waited: 'batch.waitedCause',
} as const

interface DeviationProps {
  batch: Batch
  onLog: ((target: PadTarget) => void) | undefined
}

/** Trouble first: what was seen, what can be done, what was done, how it was decided. */
export function Deviations({ batch, onLog }: DeviationProps) {
  const over = (each: Deviation) => Number(Boolean(each.decision || each.withdrawn))
  const sorted = [...batch.deviations].sort((a, b) => over(a) - over(b))
  return sorted.map((deviation) => (
    <DeviationSheet key={deviation.deviation} batch={batch} deviation={deviation} onLog={onLog} />
  ))
}

function DeviationSheet({ batch, deviation, onLog }: DeviationProps & { deviation: Deviation }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { mayDecide, mayLog } = useRole()
  const status = batch.limits.find((each) => each.step === deviation.step && each.limit.id === deviation.limit)
  const misses = Boolean(status?.forecast?.misses)
  const open = !deviation.decision && !deviation.withdrawn
  return (
    <section className={open ? 'sheet deviation open' : 'sheet deviation'} aria-label={deviation.deviation}>
      <div className="row-line">
        <StateMark state={misses ? 'will_fail' : deviation.withdrawn ? 'pass' : deviation.state} size={26} />
        <span className="push quiet">
          {deviation.deviation} · {t(CAUSES[deviation.cause as keyof typeof CAUSES])}, {whenOf(deviation.opened_at)}
        </span>
      </div>
      <p className="deviation-title">
        {open && deviation.standing
          ? t('named', { name: deviation.step_name, said: deviation.standing })
          : words(deviation.sentence)}
      </p>
      {deviation.withdrawn && <p className="quiet mb-0">{words(deviation.withdrawn)}</p>}
      {open && misses && status && (
        <Ways batch={batch} deviation={deviation} status={status} mayLog={mayLog} onLog={onLog} />
      )}
      {deviation.actions.length > 0 && (
        <ul className="actions" aria-label={t('batch.actions')}>
          {deviation.actions.map((action) => (
            <li key={action.at + action.action}>
              <span className="quiet">
                {whenOf(action.at)}, {action.by}:
              </span>{' '}
              {words(action.action)}
            </li>
          ))}
        </ul>
      )}
      {deviation.decision && deviation.decided_at && (
        <p className="strong mb-0">
          {t('batch.decided', {
            decision: t(`decision.${deviation.decision}`),
            by: deviation.decided_by,
            when: whenOf(deviation.decided_at),
            reason: deviation.reason,
          })}
        </p>
      )}
      {open && !batch.closed && <Answer batch={batch} deviation={deviation} mayDecide={mayDecide} mayLog={mayLog} />}
    </section>
  )
}

function Ways({
  batch,
  deviation,
  status,
  mayLog,
  onLog,
}: DeviationProps & { deviation: Deviation; status: Batch['limits'][number]; mayLog: boolean }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const act = useRecordAction(batch.batch_id)
  const best = status.options.find((option) => option.works)
  return (
    <div className="ways">
      <div className="row-line">
        <h3 className="mb-0">{t('batch.ways')}</h3>
        <LogAgain batch={batch} status={status} onLog={onLog} />
      </div>
      {status.options.map((option) => (
        <div className="way" key={option.action}>
          <StateMark state={option.works ? 'would_meet' : 'would_fail'} bare />
          <div>
            <p className="strong">{words(option.action)}</p>
            <p>
              {words(option.sentence)}{' '}
              <span className="quiet">({t(option.works ? 'batch.works' : 'batch.worksNot')})</span>
            </p>
          </div>
          {mayLog && (
            <Button
              variant={option === best ? 'primary' : 'outline-primary'}
              disabled={act.isPending}
              onClick={() =>
                act.mutate({
                  step: deviation.step,
                  deviation: deviation.deviation,
                  action: option.action,
                  changes_course: option.changes_course,
                  at: new Date(nowMs()).toISOString(),
                })
              }
            >
              {t('batch.doThis')}
            </Button>
          )}
        </div>
      ))}
      <p className="quiet small mb-0">{t('batch.cautionChill')}</p>
      {status.forecast && <WorkingFold working={status.forecast.working} />}
      <ProblemLine problem={act.error} keepHere={act.keepHere} />
    </div>
  )
}

/** The reading that tells whether it helped, beside what was done. */
function LogAgain({ batch, status, onLog }: DeviationProps & { status: Batch['limits'][number] }) {
  const { t } = useTranslation()
  const quantity = READ[status.limit.quantity]
  if (!onLog || !quantity) return null
  const check = batch.checks.find(
    (each) =>
      each.step === status.step && each.quantity === quantity && ['late', 'due', 'upcoming'].includes(each.state),
  )
  const target = check
    ? targetOf(batch, check)
    : {
        batchId: batch.batch_id,
        batchCode: batch.code,
        step: status.step,
        quantity,
        what: t('named', { name: status.step_name, said: t(`quantity.${quantity}`) }),
      }
  return (
    <Button className="push" onClick={() => onLog(target)}>
      {t('batch.logAgain', { what: t(`quantity.${quantity}`) })}
    </Button>
  )
}

/** What was done otherwise, and the lead's decision: folded until one of them is wanted. */
function Answer({
  batch,
  deviation,
  mayDecide,
  mayLog,
}: {
  batch: Batch
  deviation: Deviation
  mayDecide: boolean
  mayLog: boolean
}) {
  const { t } = useTranslation()
  const [open, setOpen] = useState<'other' | 'decide' | null>(null)
  return (
    <div className="answer">
      <div className="row-line">
        {mayLog && (
          <Button
            variant="link"
            className="fold"
            aria-expanded={open === 'other'}
            onClick={() => setOpen(open === 'other' ? null : 'other')}
          >
            {t('batch.other')}
          </Button>
        )}
        {mayDecide ? (
          <Button
            variant="outline-primary"
            className="push"
            aria-expanded={open === 'decide'}
            onClick={() => setOpen(open === 'decide' ? null : 'decide')}
          >
            {t('batch.decide', { name: deviation.deviation })}
          </Button>
        ) : (
          <span className="quiet push">{t('batch.undecided')}</span>
        )}
      </div>
      {open === 'other' && <OtherAction batch={batch} deviation={deviation} onDone={() => setOpen(null)} />}
      {open === 'decide' && <Decide batch={batch} deviation={deviation} />}
    </div>
  )
}

function OtherAction({ batch, deviation, onDone }: { batch: Batch; deviation: Deviation; onDone: () => void }) {
  const { t } = useTranslation()
  const act = useRecordAction(batch.batch_id)
  const [action, setAction] = useState('')
  const [changes, setChanges] = useState(true)
  function submit(event: FormEvent) {
    event.preventDefault()
    act.mutate(
      {
        step: deviation.step,
        deviation: deviation.deviation,
        action,
        changes_course: changes,
        at: new Date(nowMs()).toISOString(),
      },
      { onSuccess: onDone },
    )
  }
  return (
    <Form onSubmit={submit} className="stack tight">
      <Form.Control
        aria-label={t('batch.otherPlaceholder')}
        placeholder={t('batch.otherPlaceholder')}
        required
        minLength={3}
        maxLength={1000}
        value={action}
        onChange={(event) => setAction(event.target.value)}
      />
      <div className="row-line">
        <Form.Check
          id={`changes-${deviation.deviation}`}
          label={t('batch.changes')}
          checked={changes}
          onChange={(event) => setChanges(event.target.checked)}
        />
        <Button type="submit" className="push" variant="outline-primary" disabled={act.isPending}>
          {t('batch.recordAction')}
        </Button>
      </div>
      <ProblemLine problem={act.error} keepHere={act.keepHere} />
    </Form>
  )
}

function Decide({ batch, deviation }: { batch: Batch; deviation: Deviation }) {
  const { t } = useTranslation()
  const decide = useDecide(batch.batch_id)
  const [reason, setReason] = useState('')
  const [password, setPassword] = useState('')
  const [found, setFound] = useState('')
  const { words } = useUnits()
  const thin = reason.trim().length < 3
  const grounded = deviation.grounds?.length ? found !== '' : true
  return (
    <div className="decide">
      <Form.Control
        as="textarea"
        rows={2}
        aria-label={t('batch.reason')}
        placeholder={t('batch.reason')}
        maxLength={1000}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <div className="row-line mt-2">
        {(['discard', 'rework'] as const).map((decision) => (
          <Button
            key={decision}
            variant="primary"
            disabled={thin || decide.isPending}
            onClick={() =>
              decide.mutate({
                deviation: deviation.deviation,
                decision,
                reason: reason.trim(),
                password: '',
                found: null,
              })
            }
          >
            {t(`decision.${decision}`)}
          </Button>
        ))}
      </div>
      {deviation.grounds?.length ? (
        <Form.Select
          className="mt-3"
          aria-label={t('batch.found')}
          value={found}
          onChange={(event) => setFound(event.target.value)}
        >
          <option value="">{t('batch.found')}</option>
          {deviation.grounds.map((ground) => (
            <option key={ground.key} value={ground.key}>
              {words(ground.said)}
            </option>
          ))}
        </Form.Select>
      ) : null}
      <div className="row-line mt-3">
        <Form.Control
          type="password"
          className="narrow"
          autoComplete="current-password"
          aria-label={t('batch.releasePassword')}
          placeholder={t('batch.releasePassword')}
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <Button
          variant="outline-primary"
          disabled={thin || !grounded || !password || decide.isPending}
          onClick={() =>
            decide.mutate({
              deviation: deviation.deviation,
              decision: 'release',
              reason: reason.trim(),
              password,
              found: (found || null) as Ground | null,
            })
          }
        >
          {t('decision.release')}
        </Button>
      </div>
      <p className="quiet small mb-0 mt-1">{t('batch.releaseHint')}</p>
      <ProblemLine problem={decide.error} />
    </div>
  )
}
