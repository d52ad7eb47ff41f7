import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { whenOf } from '../../shared/clock'
import { StateMark } from '../../shared/parts/StateMark'
import { useRole } from '../../shared/session'
import { ComparePlans } from './ComparePlans'
import { PlanMenu } from './PlanMenu'
import { markOf, type Summary } from './planStates'

/** One plan of the library: what it is, how it stands, what decides, and what can be done with it. */
export function PlanLine({ plan, onCopy }: { plan: Summary; onCopy: () => void }) {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const [comparing, setComparing] = useState(false)
  return (
    <li className="plan-line">
      <Link to={`/plans/${plan.plan_id}`} className="plan-link">
        <StateMark state={markOf(plan)} bare size={22} />
        <span className="plan-name">
          <span className="strong d-block">{plan.name}</span>
          {Boolean(plan.decides?.length) && (
            <span className="quiet small">{t('plans.decides', { steps: plan.decides?.join(', ') })}</span>
          )}
        </span>
        <span className="plan-state">
          <PlanState plan={plan} />
        </span>
        <span className="plan-facts">
          <span className="quiet">
            {(plan.days ?? 0) >= 0.5 ? t('plans.keptDays', { count: Math.round(plan.days ?? 0) }) : ''}
          </span>
          <span className="quiet">
            {plan.last_batch
              ? t('plans.lastBatch', { code: plan.last_batch.code, when: whenOf(plan.last_batch.started_at) })
              : ''}
          </span>
        </span>
      </Link>
      <PlanMenu plan={plan} mayWrite={isLead} onCopy={onCopy} onCompare={() => setComparing(true)} />
      {comparing && <ComparePlans plan={plan} onClose={() => setComparing(false)} />}
    </li>
  )
}

function PlanState({ plan }: { plan: Summary }) {
  const { t } = useTranslation()
  if (plan.damaged) return <span className="strong">{plan.damaged}</span>
  if (plan.standing === 'archived') return t('plans.isArchived')
  if (plan.standing === 'deleted') return t('plans.isDeleted')
  if (!plan.version) return plan.gaps ? t('plans.draftGaps', { count: plan.gaps }) : t('plans.ready')
  return (
    <>
      <span className="d-block">{t('plans.signed', { version: plan.version.version })}</span>
      {plan.review && <span className="strong small d-block">{plan.review}</span>}
      {!plan.review && plan.changed_since_signed && (
        <span className="quiet small d-block">{t('plans.changed', { version: plan.version.version })}</span>
      )}
    </>
  )
}
