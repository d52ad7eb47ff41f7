import { useMemo } from 'react'
import { useTranslation } from 'react-i18next'

import { lengthOf } from '../../shared/clock'
import { BenchLinks } from '../../shared/parts/BenchLinks'
import { type ChartLine, CurveChart } from '../../shared/parts/CurveChart'
import { zoneOf } from '../../shared/parts/chartDrawing'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold, WorkingView } from '../../shared/parts/WorkingView'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { isOpen, hoursAndMinutes, planned, markOfProof } from './planned'
import { type Plan, type Proof, useAsked, useProof, useRepeated, useWhatIfs } from './api'
import { fixed, valueOf } from '../../shared/quantities'

/** Proof before the first batch. Nothing here is green: what is computed passes nothing. */
export function ProofTab({ plan, planId }: { plan: Plan; planId: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const proof = useProof(planId, plan)
  if (proof.error) return <ProblemLine problem={proof.error} />
  if (!proof.data)
    return (
      <p role="status" className="quiet">
        {t('plans.proving')}
      </p>
    )
  const { state, sentence, limits, remedies } = proof.data
  return (
    <>
      <section className="sheet" aria-live="polite">
        <div className="verdict-big">
          <StateMark state={markOfProof(state)} bare size={32} />
          <p className={isOpen(state) ? 'hot' : ''}>{words(sentence)}</p>
        </div>
        {remedies.length > 0 && (
          <>
            <h3 className="mt-3">{t('plans.wouldPass')}</h3>
            <ul className="needs">
              {remedies.map((remedy) => (
                <li key={remedy}>{words(remedy)}</li>
              ))}
            </ul>
          </>
        )}
      </section>
      <ProofChart proof={proof.data} plan={plan} planId={planId} />
      {proof.data.others.map((other) => (
        <OtherChart key={other.step + other.quantity} other={other} proof={proof.data} />
      ))}
      <section className="sheet">
        <h2>{t('batch.limits')}</h2>
        <ul className="limits">
          {limits.map((each) => (
            <li key={each.step + each.limit.id}>
              <div className="limit-line two-columns">
                <StateMark state={planned(each.verdict.state)} />
                <div>
                  <p className="strong">
                    {each.step_name}: {each.title}
                  </p>
                  <p>
                    {words(each.verdict.sentence)}
                    {each.time_to_meet_s ? ` ${t('plans.timeToMeet', { time: lengthOf(each.time_to_meet_s) })}` : ''}
                  </p>
                </div>
              </div>
              <WorkingFold working={each.verdict.working} />
            </li>
          ))}
        </ul>
      </section>
      <WhatIfs plan={plan} planId={planId} />
      <IfItVaries plan={plan} planId={planId} />
      <Schools proof={proof.data} />
      <section className="sheet">
        <h2>{t('plans.workings')}</h2>
        {proof.data.workings.map((working) => (
          <div key={working.title} className="mb-3">
            <h3>{working.title}</h3>
            <WorkingView working={working} />
          </div>
        ))}
      </section>
    </>
  )
}

function ProofChart({ proof, plan, planId }: { proof: Proof; plan: Plan; planId: string }) {
  const { t } = useTranslation()
  const asked = useAsked(planId, plan)
  const { curve } = proof
  const lines = useMemo<ChartLine[]>(
    () => [
      { name: t('chart.core'), kind: 'expected', timesS: curve.times_s, valuesC: curve.core_c },
      { name: t('chart.bath'), kind: 'bath', timesS: curve.times_s, valuesC: curve.surroundings_c },
    ],
    [curve, t],
  )
  const marks = useMemo(() => marksOf(proof, t), [proof, t])
  if (!curve.times_s.length)
    return (
      <section className="sheet">
        <BenchLinks asked={asked.data} />
      </section>
    )
  const cooling = proof.limits.map((each) => each.limit).find((limit) => limit.kind === 'cooling')
  return (
    <section className="sheet">
      <h2>{t('plans.cookCurve')}</h2>
      <CurveChart
        label={t('plans.cookCurve')}
        lines={lines}
        marks={marks}
        zone={zoneOf(cooling?.kind === 'cooling' ? cooling : undefined, t('chart.growth'))}
        timeLabel={hoursAndMinutes}
        toS={Math.min(curve.times_s.at(-1) ?? 0, curve.cook_ends_s + 2.6 * 3600)}
        fromS={0}
        height={320}
      />
      <BenchLinks asked={asked.data} />
    </section>
  )
}

/** What is not heat: pH, salt, water activity over a step. */
function OtherChart({ other, proof }: { other: Proof['others'][number]; proof: Proof }) {
  const { t } = useTranslation()
  const { unitOf, info } = useQuantities()
  const name = t(`quantity.${other.quantity}` as never) as string
  const lines = useMemo<ChartLine[]>(
    () => [{ name, kind: 'expected', timesS: other.times_s, valuesC: other.values }],
    [other, name],
  )
  const marks = useMemo(
    () =>
      proof.limits.flatMap(({ step, limit, verdict, time_to_meet_s: meets }) =>
        step === other.step && limit.kind === 'composition'
          ? limit.ways.flatMap((way) =>
              way.bounds.map((bound) => ({
                label: String(bound.value),
                valueC: bound.value,
                byS: meets,
                byLabel: meets ? t('plans.metAfter', { time: lengthOf(meets) }) : undefined,
                state: verdict.state,
              })),
            )
          : [],
      ),
    [proof, other, t],
  )
  const title = `${other.step_name}: ${name}`
  return (
    <section className="sheet">
      <h2>{title}</h2>
      <CurveChart
        label={title}
        lines={lines}
        marks={marks}
        axis={{
          key: other.quantity,
          unit: unitOf(other.quantity),
          digits: info(other.quantity)?.decimals ?? 1,
          toShown: (v) => v,
        }}
        timeLabel={(s) => lengthOf(s)}
        fromS={0}
        toS={other.times_s.at(-1)}
        height={260}
      />
    </section>
  )
}

function marksOf(proof: Proof, t: (key: string, fields?: Record<string, string>) => string) {
  return proof.limits.flatMap(({ limit, verdict, time_to_meet_s: meets }) => {
    if (limit.kind === 'lethality') {
      const floor = limit.model.kind === 'table' ? limit.model.rows[0]?.at_c : limit.model.floor_c
      if (floor === undefined) return []
      return [
        {
          label: valueOf(floor, '°C'),
          valueC: floor,
          byS: meets,
          byLabel: meets ? t('plans.metAfter', { time: lengthOf(meets) }) : undefined,
          state: verdict.state,
        },
      ]
    }
    if (limit.kind === 'cooling')
      return limit.stages.map((stage) => ({
        label: `${valueOf(stage.to_c, '°C')} ≤ ${lengthOf(stage.within_s)}`,
        valueC: stage.to_c,
        state: verdict.state,
      }))
    return []
  })
}

function WhatIfs({ plan, planId }: { plan: Plan; planId: string }) {
  const { t } = useTranslation()
  const { temp, words } = useUnits()
  const cases = useWhatIfs(planId, plan).data ?? []
  const steps = cases[0]?.steps ?? []
  const cores = cases.some((each) => each.core_at_end_c !== null)
  const several = new Set(cases.map((each) => each.step)).size > 1
  if (!cases.length) return null
  return (
    <section className="sheet">
      <h2>{t('plans.whatIf')}</h2>
      <div className="table-responsive">
        <table className="table">
          <thead>
            <tr>
              <th>{t('plans.whatIfHead.case')}</th>
              {cores && <th>{t('plans.whatIfHead.core')}</th>}
              {steps.map((step) => (
                <th key={step.step}>{step.step_name}</th>
              ))}
              <th>{t('plans.whatIfHead.needs')}</th>
            </tr>
          </thead>
          <tbody>
            {cases.map((each) => (
              <tr key={`${each.step} ${each.name}`}>
                <td className="strong">
                  {several ? `${words(each.step_name)}: ${words(each.name)}` : words(each.name)}
                </td>
                {cores && <td>{each.core_at_end_c === null ? '—' : temp(each.core_at_end_c)}</td>}
                {each.steps.map((step) => (
                  <td key={step.step}>
                    <StateMark state={step.meets ? 'would_meet' : 'would_fail'} />
                  </td>
                ))}
                <td>
                  {each.time_to_meet_s
                    ? lengthOf(each.time_to_meet_s)
                    : each.core_at_end_c === null
                      ? '—'
                      : t('plans.notReached')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** The same proof over spreads of what varies from bag to bag: how often it fails, and what matters most. */
function IfItVaries({ plan, planId }: { plan: Plan; planId: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const repeated = useRepeated(planId, plan)
  if (!repeated.data?.length) return null
  return (
    <section className="sheet">
      <h2>{t('plans.varies')}</h2>
      <ul className="limits">
        {repeated.data.map((each) => (
          <li key={each.step + each.title} className="pb-2">
            <p className="strong mb-0">{words(each.title)}</p>
            <p className="mb-0">
              {each.failing_share === 0
                ? t('plans.variesNever')
                : t('plans.variesFails', {
                    share: fixed(100 * each.failing_share, 1),
                    error: fixed(200 * each.error, 1),
                  })}{' '}
              {t('plans.variesMatters', {
                names: each.matters
                  .filter((part) => part.share >= 0.05)
                  .map((part) => `${t(`plans.input.${part.name}` as never)} ${Math.round(100 * part.share)} %`)
                  .join(', '),
              })}
            </p>
          </li>
        ))}
      </ul>
      <p className="quiet small mb-0">{t('plans.variesBy')}</p>
    </section>
  )
}

function Schools({ proof }: { proof: Proof }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (!proof.schools.length) return null
  return (
    <section className="sheet">
      <h2>{t('plans.schools')}</h2>
      <ul className="limits">
        {proof.schools.map((school) => (
          <li key={school.rule_set + school.school} className="pb-2">
            <div className="limit-line two-columns">
              <StateMark state={planned(school.verdict.state)} />
              <div>
                <p className="strong">
                  {school.rule_set.toUpperCase()}: {words(school.title)}
                </p>
                <p>
                  {words(school.verdict.sentence)}
                  {school.time_to_meet_s ? ` ${t('plans.timeToMeet', { time: lengthOf(school.time_to_meet_s) })}.` : ''}
                </p>
              </div>
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}
