import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { valueOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import { useRevokeValidation, useSignValidation, useValidations } from './api'
import { useMayWrite } from './writing'

export type StepValidation = Schemas['StepValidation']
type Run = StepValidation['runs'][number]

const MARK = { holds: 'pass', none: 'ask', changed: 'ask', revoked: 'fail' } as const

/** What was shown on real food: by step, the study, its bounds, who signed it, and what ended it. */
export function ValidationTab({ planId, signed }: { planId: string; signed: boolean }) {
  const { t } = useTranslation()
  const found = useValidations(planId, signed)
  if (!signed) return <p className="sheet quiet mb-0">{t('plans.validateSignFirst')}</p>
  if (!found.data) return <Waiting problem={found.error} again={() => void found.refetch()} />
  if (found.data.length === 0) return <p className="sheet quiet mb-0">{t('plans.validateNothing')}</p>
  return (
    <>
      <p className="mb-3">{t('plans.validateAbout')}</p>
      {found.data.map((each) => (
        <StepCard key={each.step} planId={planId} validation={each} />
      ))}
    </>
  )
}

function StepCard({ planId, validation }: { planId: string; validation: StepValidation }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const counting = validation.runs.filter((run) => !run.why_not)
  const said = t(`plans.validate_${validation.state}`, { count: counting.length, needed: validation.needed })
  return (
    <section className="sheet stack tight">
      <div className="verdict-big">
        <StateMark state={MARK[validation.state as keyof typeof MARK]} bare size={28} />
        <div>
          <h2 className="mb-1">{words(validation.step_name)}</h2>
          <p className="mb-0">{said}</p>
        </div>
      </div>
      {validation.validation && (
        <p className="mb-0">
          <span className="strong">{words(validation.bounds)}.</span>{' '}
          <span className="quiet">
            {t('plans.validatedBy', {
              batches: validation.validation.batches.join(', '),
              by: validation.validation.by,
              when: whenOf(validation.validation.at),
            })}
          </span>
        </p>
      )}
      {validation.ended && <p className="mb-0 hot">{words(validation.ended)}</p>}
      <Runs validation={validation} planId={planId} />
      {mayWrite && validation.validation && <Revoke planId={planId} step={validation.step} />}
    </section>
  )
}

/** The batches of the plan as a study; the lead ticks those that are the evidence, and signs. */
function Runs({ validation, planId }: { validation: StepValidation; planId: string }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const sign = useSignValidation(planId)
  const [chosen, setChosen] = useState<string[]>([])
  const [password, setPassword] = useState('')
  if (validation.runs.length === 0) return <p className="quiet mb-0">{t('plans.validateNoRuns')}</p>
  const toggle = (batch: string) =>
    setChosen(chosen.includes(batch) ? chosen.filter((each) => each !== batch) : [...chosen, batch])
  function submit(event: FormEvent) {
    event.preventDefault()
    const done = () => {
      setChosen([])
      setPassword('')
    }
    sign.mutate({ step: validation.step, batches: chosen, password }, { onSuccess: done })
  }
  const few = chosen.length < validation.needed
  return (
    <Form onSubmit={submit} className="stack tight">
      <div className="table-responsive">
        <table className="table runs">
          <thead>
            <tr>
              <th>{t('plans.runBatch')}</th>
              <th>{t('plans.runMedium')}</th>
              <th>{t('plans.runTime')}</th>
              <th>{t('plans.runPiece')}</th>
              <th>{t('plans.runLoad')}</th>
              <th>{t('plans.runCore')}</th>
            </tr>
          </thead>
          <tbody>
            {validation.runs.map((run) => (
              <RunRow
                key={run.batch}
                run={run}
                chosen={chosen.includes(run.batch)}
                taken={validation.validation?.batches.includes(run.code) ?? false}
                toggle={mayWrite ? () => toggle(run.batch) : null}
              />
            ))}
          </tbody>
        </table>
      </div>
      {mayWrite && chosen.length > 0 && (
        <>
          <p className="caution mb-0">{t('plans.validateCaution')}</p>
          <Form.Group controlId={`validate-${validation.step}`} className="narrow">
            <Form.Label>{t('plans.signPassword')}</Form.Label>
            <Form.Control
              type="password"
              required
              autoComplete="current-password"
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </Form.Group>
          <ProblemLine problem={sign.error} />
          <div>
            <Button type="submit" disabled={few || sign.isPending}>
              {few
                ? t('plans.validateMore', { needed: validation.needed })
                : t('plans.validateGo', { count: chosen.length })}
            </Button>
          </div>
        </>
      )}
    </Form>
  )
}

function RunRow({
  run,
  chosen,
  taken,
  toggle,
}: {
  run: Run
  chosen: boolean
  taken: boolean
  toggle: (() => void) | null
}) {
  const { t } = useTranslation()
  const { words, temp } = useUnits()
  const counts = !run.why_not
  return (
    <tr className={counts ? '' : 'quiet'}>
      <td>
        {toggle && counts ? (
          <Form.Check id={`run-${run.batch}`} label={run.code} checked={chosen} onChange={toggle} />
        ) : (
          run.code
        )}
        <span className="quiet d-block">{whenOf(run.at)}</span>
        {taken && <span className="strong d-block">{t('plans.runTaken')}</span>}
      </td>
      <td>{run.medium_c === null || run.medium_c === undefined ? '' : temp(run.medium_c)}</td>
      <td>{run.lasts ? words(run.lasts) : ''}</td>
      <td>{run.thickness_m ? valueOf(1000 * run.thickness_m, 'mm') : ''}</td>
      <td>{run.in_kg ? valueOf(run.load, 'kg') : t('plans.runPacks', { packs: run.load })}</td>
      <td>
        {counts ? words(run.core) : words(run.why_not)}
        {run.slower && <span className="d-block">{t('plans.runSlower')}</span>}
      </td>
    </tr>
  )
}

function Revoke({ planId, step }: { planId: string; step: string }) {
  const { t } = useTranslation()
  const revoke = useRevokeValidation(planId)
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (!open)
    return (
      <div>
        <Button variant="link" className="fold" onClick={() => setOpen(true)}>
          {t('plans.revoke')}
        </Button>
      </div>
    )
  function submit(event: FormEvent) {
    event.preventDefault()
    revoke.mutate({ step, reason }, { onSuccess: () => setOpen(false) })
  }
  return (
    <Form onSubmit={submit} className="stack tight">
      <Form.Group controlId={`revoke-${step}`}>
        <Form.Label>{t('plans.revokeWhy')}</Form.Label>
        <Form.Control
          as="textarea"
          rows={2}
          required
          minLength={3}
          maxLength={1000}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </Form.Group>
      <ProblemLine problem={revoke.error} />
      <div>
        <Button type="submit" variant="outline-primary" disabled={revoke.isPending}>
          {t('plans.revokeGo')}
        </Button>
      </div>
    </Form>
  )
}
