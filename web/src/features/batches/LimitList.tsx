import { useTranslation } from 'react-i18next'

import { BenchLinks } from '../../shared/parts/BenchLinks'
import { LittleScale } from '../../shared/parts/LittleScale'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold } from '../../shared/parts/WorkingView'
import { useUnits } from '../../shared/units'
import { type Asked, type Batch, type Status, useAsked } from './api'

/** Every critical limit with its verdict, its number on the little scale, and its working. */
export function LimitList({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const asked = useAsked(batch)
  return (
    <section className="sheet">
      <h2>{t('batch.limits')}</h2>
      <ul className="limits">
        {batch.limits.map((status) => (
          <LimitLine
            key={`${status.step}${status.limit.id}`}
            status={status}
            asked={status.forecast ? asked.data : undefined}
          />
        ))}
      </ul>
    </section>
  )
}

function LimitLine({ status, asked }: { status: Status; asked: Asked[] | undefined }) {
  const { words } = useUnits()
  const { verdict } = status
  return (
    <li>
      <div className="limit-line">
        <StateMark state={status.forecast?.misses ? 'will_fail' : verdict.state} />
        <div>
          <p className="strong">
            {status.step_name}: {status.title}
          </p>
          <p>
            {words(verdict.sentence)}
            {status.forecast && verdict.state === 'pending' ? ` ${words(status.forecast.sentence)}` : ''}
          </p>
          {verdict.advice.length > 0 && verdict.state !== 'pending' && (
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
  if (limit.kind === 'threshold' && limit.unit === '°C') {
    return (
      <LittleScale
        low={limit.value - 8}
        high={limit.value + 6}
        bandFrom={limit.value - 8}
        bandTo={limit.value}
        value={value}
        tone="cold"
        label={label}
      />
    )
  }
  if (verdict.limit_value && value !== null) {
    return (
      <LittleScale
        low={0}
        high={verdict.limit_value * 1.25}
        bandFrom={0}
        bandTo={verdict.limit_value}
        value={value}
        label={label}
      />
    )
  }
  return null
}
