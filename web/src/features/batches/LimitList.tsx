import { useTranslation } from 'react-i18next'

import { BenchLinks } from '../../shared/parts/BenchLinks'
import { Fold } from '../../shared/parts/Fold'
import { LittleScale } from '../../shared/parts/LittleScale'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold } from '../../shared/parts/WorkingView'
import { useUnits } from '../../shared/units'
import { type Asked, type Batch, type Status, useAsked } from './api'

/** Every limit with its verdict, its number on the little scale, and its working; what presses stands open. */
export function LimitList({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const started = new Set(batch.blocks.filter((block) => block.started).map((block) => block.step))
  // a step that was passed over is not still to come: a later one of its line has begun
  const steps = batch.plan.steps
  const begun = new Set(
    steps.flatMap((step, at) =>
      steps.slice(at).some((each) => (each.line ?? '') === (step.line ?? '') && started.has(each.id)) ? [step.id] : [],
    ),
  )
  // what is met while its step still runs stands open: somebody has just brought it there
  const met = batch.limits.filter((each) => each.verdict.state === 'pass' && !batch.running.includes(each.step))
  const later = batch.limits.filter(
    (each) => !met.includes(each) && !begun.has(each.step) && !each.forecast?.misses && each.verdict.state !== 'fail',
  )
  const pressing = batch.limits.filter((each) => !met.includes(each) && !later.includes(each))
  return (
    <section className="sheet">
      <h2>{t('batch.limits')}</h2>
      {batch.closed ? (
        <Lines batch={batch} limits={batch.limits} />
      ) : (
        <>
          <Lines batch={batch} limits={pressing} />
          {met.length > 0 && (
            <Fold title={t('batch.limitsMet')} count={met.length}>
              <Lines batch={batch} limits={met} />
            </Fold>
          )}
          {later.length > 0 && (
            <Fold title={t('batch.limitsLater')} count={later.length}>
              <Lines batch={batch} limits={later} />
            </Fold>
          )}
        </>
      )}
    </section>
  )
}

function Lines({ batch, limits }: { batch: Batch; limits: readonly Status[] }) {
  const asked = useAsked(batch)
  return (
    <ul className="limits">
      {limits.map((status) => (
        <LimitLine
          key={`${status.step}${status.limit.id}`}
          status={status}
          asked={status.forecast ? asked.data : undefined}
          told={batch.deviations.some(
            (each) => each.step === status.step && each.limit === status.limit.id && !each.decision && !each.withdrawn,
          )}
        />
      ))}
    </ul>
  )
}

/** One limit; of what stands on top of the page as a trouble the sentence is told there, and not again. */
function LimitLine({ status, asked, told }: { status: Status; asked: Asked[] | undefined; told: boolean }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { verdict } = status
  return (
    <li>
      <div className="limit-line">
        <StateMark state={status.forecast?.misses ? 'will_fail' : verdict.state} />
        <div>
          <p className="strong">{t('named', { name: status.step_name, said: status.title })}</p>
          {!told && (
            <p>
              {words(verdict.sentence)}
              {status.forecast && verdict.state === 'pending' ? ` ${words(status.forecast.sentence)}` : ''}
            </p>
          )}
          {!told && verdict.advice.length > 0 && verdict.state !== 'pending' && (
            <p className="quiet">{verdict.advice.join(' ')}</p>
          )}
        </div>
        <VerdictScale status={status} />
      </div>
      <BenchLinks asked={asked} />
      <WorkingFold
        working={status.forecast && verdict.state === 'pending' ? status.forecast.working : verdict.working}
      />
    </li>
  )
}

/** Limits of which more is on the safe side: so hot, so long, as it should look. */
const AT_LEAST: readonly string[] = ['hold', 'freezing', 'looked', 'lasted']

function VerdictScale({ status }: { status: Status }) {
  const { words } = useUnits()
  const { verdict, limit } = status
  const value = verdict.value ?? null
  const label = words(verdict.sentence)
  if (limit.kind === 'lethality' && verdict.limit_value) {
    const top = verdict.limit_value * 4
    return <LittleScale low={0} high={top} bandFrom={verdict.limit_value} bandTo={top} value={value} label={label} />
  }
  if (limit.kind === 'cooling') {
    const last = limit.stages.at(-1)?.to_c ?? 5
    return <LittleScale low={-2} high={66} bandFrom={-2} bandTo={last} value={value} tone="cold" label={label} />
  }
  // what is allowed lies on the limit's own side: hot food above it, cold food below
  const above = AT_LEAST.includes(limit.kind) || ('comparison' in limit && limit.comparison === 'at_least')
  const [low, high, bound] =
    limit.kind === 'threshold' && limit.unit === '°C'
      ? [limit.value - 8, limit.value + (above ? 16 : 6), limit.value]
      : [0, (verdict.limit_value ?? 0) * (above ? 2 : 1.25), verdict.limit_value ?? 0]
  if (high <= low || (value === null && !('unit' in limit && limit.unit === '°C'))) return null
  return (
    <LittleScale
      low={low}
      high={high}
      bandFrom={above ? bound : low}
      bandTo={above ? high : bound}
      value={value}
      tone={above || !('unit' in limit && limit.unit === '°C') ? 'sea' : 'cold'}
      label={label}
    />
  )
}
