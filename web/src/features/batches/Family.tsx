import type { TFunction } from 'i18next'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { nowMs, whenOf } from '../../shared/clock'
import { StateMark } from '../../shared/parts/StateMark'
import { valueOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { Batch } from './api'

const PART_STATE: Record<string, string> = {
  released: 'done',
  running: 'pending',
  trouble: 'fail',
  discarded: 'fail',
  recalled: 'fail',
  unknown: 'not_measured',
}
const SOON_MS = 24 * 3600 * 1000

/** When it has to be gone, and what has to be declared: always in view. */
export function UseBy({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const [oldest] = batch.parts.map((each) => each.part).sort((a, b) => Date.parse(a.made_at) - Date.parse(b.made_at))
  const over = Boolean(batch.closed) || (batch.running.length === 0 && batch.startable.length === 0)
  const left = batch.gone_by ? Date.parse(batch.gone_by) - nowMs() : Infinity
  return (
    <p className="use-by">
      <span className={over ? 'quiet' : left < 0 ? 'hot strong' : left < SOON_MS ? 'strong' : ''}>
        {batch.gone_by
          ? t(left < 0 && !over ? 'batch.wasToBeGone' : 'batch.toBeGone', { when: whenOf(batch.gone_by) })
          : t('batch.noDate')}
      </span>
      {oldest && <span>{t('batch.oldest', { code: oldest.code, when: whenOf(oldest.made_at) })}</span>}
      <span>
        {batch.allergens.length
          ? t('batch.declares', { allergens: batch.allergens.map(words).join(', ') })
          : t('batch.declaresNone')}
      </span>
      {batch.told.map((each) => (
        <span key={each} className="strong">
          {words(each)}
        </span>
      ))}
    </p>
  )
}

/** What went into it, what came of it, and how it differs from its plan. */
export function Family({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (!batch.parts.length && !batch.given.length && !batch.lots.length && !batch.adjusted.length) return null
  const stepName = (id: string) => words(batch.plan.steps.find((step) => step.id === id)?.name ?? id)
  return (
    <section className="sheet" aria-label={t('batch.family')}>
      <h2>{t('batch.family')}</h2>
      <ul className="plain-list family">
        {batch.parts.map(({ part, state }) => (
          <li key={part.batch + part.what}>
            <StateMark state={PART_STATE[state] ?? 'not_measured'} bare size={18} />
            <span>
              {t('batch.madeOf', { what: t(`batch.what_${part.what}`) })}{' '}
              <Link to={`/batches/${part.batch}`}>
                {part.code} {words(part.name)}
              </Link>
              <span className="quiet"> {partFacts(part, state, t)}</span>
            </span>
          </li>
        ))}
        {batch.given.map((each) => (
          <li key={each.batch + each.what}>
            <span aria-hidden="true">→</span>
            <span>
              {t('batch.gaveTo', { what: t(`batch.what_${each.what}`) })}{' '}
              <Link to={`/batches/${each.batch}`}>
                {each.code} {words(each.name)}
              </Link>
              {each.kg ? <span className="quiet"> {valueOf(each.kg, 'kg')}</span> : null}
            </span>
          </li>
        ))}
        {batch.lots.map((lot) => (
          <li key={lot.ingredient}>
            <span aria-hidden="true">·</span>
            <span>{t('batch.lotOf', { ingredient: words(lot.ingredient), lot: lot.lot })}</span>
          </li>
        ))}
        {batch.adjusted.map((each) => (
          <li key={each.step + each.setting}>
            <span aria-hidden="true">·</span>
            <span>{t('batch.adjusted', { step: stepName(each.step), said: adjustedSaid(each) })}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** How much of it, when it was made, how its own batch stands. */
function partFacts(part: Batch['parts'][number]['part'], state: string, t: TFunction): string {
  const kg = part.kg ? [valueOf(part.kg, 'kg')] : []
  return [...kg, t('batch.madeAt', { when: whenOf(part.made_at) }), t(`batch.part_${state}`)].join(' · ')
}

function adjustedSaid(each: Batch['adjusted'][number]): string {
  if (each.setting === 'thickness_m') return valueOf(each.value, 'm')
  if (each.setting === 'start_c') return valueOf(each.value, '°C')
  return `${Math.round(each.value / 60)} min`
}
