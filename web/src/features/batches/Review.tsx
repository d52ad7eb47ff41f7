import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { whenOf } from '../../shared/clock'
import { Fold } from '../../shared/parts/Fold'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { useRole } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Batch, useCountersign, useOpenDeviation } from './api'
import { SigningFields, useSigning } from './signing'

const DECISIONS = ['release', 'rework', 'discard'] as const

/** The review by the lead or a reviewer: what stands in the way, the decision, the signature. */
export function Review({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { mayDecide } = useRole()
  if (batch.closed) return <Decided closed={batch.closed} />
  if (!mayDecide) return null
  const over = batch.running.length === 0 && batch.startable.length === 0 // while it runs nobody signs it off
  return (
    <section className="sheet decides" aria-label={t('batch.countersign')}>
      {!over && <h2>{t('batch.countersign')}</h2>}
      <Fold title={t(over ? 'batch.countersign' : 'batch.blocking')} count={batch.blocking.length} open={over}>
        {batch.blocking.length > 0 && (
          <>
            {over && <p className="quiet mb-1">{t('batch.blocking')}</p>}
            <ul className="blocking">
              {batch.blocking.map((line) => (
                <li key={line}>{words(line)}</li>
              ))}
            </ul>
            <Unproved batch={batch} />
          </>
        )}
        <Countersign batch={batch} />
      </Fold>
    </section>
  )
}

function Decided({ closed }: { closed: NonNullable<Batch['closed']> }) {
  const { t } = useTranslation()
  return (
    <section className="sheet decides">
      <StateMark state={closed.decision === 'release' ? 'done' : 'fail'} bare size={26} />
      <p className="strong mt-2 mb-1">
        {t('batch.closed', { decision: t(`decision.${closed.decision}`), when: whenOf(closed.at), by: closed.by })}
      </p>
      <p className="mb-0">{t('batch.closedReason', { reason: closed.reason })}</p>
    </section>
  )
}

function Countersign({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const sign = useCountersign(batch.batch_id)
  const [decision, setDecision] = useState<(typeof DECISIONS)[number]>('release')
  const signing = useSigning()
  function submit(event: FormEvent) {
    event.preventDefault()
    sign.mutate({ decision, ...signing.given })
  }
  return (
    <Form onSubmit={submit} className="stack tight">
      <Form.Select
        aria-label={t('batch.countersign')}
        value={decision}
        onChange={(event) => setDecision(event.target.value as typeof decision)}
      >
        {DECISIONS.map((each) => (
          <option key={each} value={each}>
            {t(`decision.${each}`)}
          </option>
        ))}
      </Form.Select>
      <SigningFields signing={signing} />
      <ProblemLine problem={sign.error} />
      <Button type="submit" disabled={sign.isPending || (decision !== 'discard' && batch.blocking.length > 0)}>
        {t('batch.countersignGo')}
      </Button>
    </Form>
  )
}

/** Limits that no reading proves any more: they wait for somebody to decide, with a reason. */
function Unproved({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const open = useOpenDeviation(batch.batch_id)
  return (
    <>
      {batch.unproved.map((each) => (
        <p key={each.step + each.limit} className="mb-1">
          <Button
            variant="link"
            className="fold"
            disabled={open.isPending}
            onClick={() => open.mutate({ step: each.step, limit: each.limit })}
          >
            {t('batch.takeUp', { title: each.title })}
          </Button>
        </p>
      ))}
      <ProblemLine problem={open.error} />
    </>
  )
}
