import '../../shared/text/laterWords'

import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { FindBar, useFound, useSought } from '../../shared/parts/FindBar'
import { PageBar } from '../../shared/parts/PageBar'
import { Waiting } from '../../shared/parts/Waiting'
import { useReference } from '../../shared/reference'
import { useRole } from '../../shared/session'
import { isCurrent } from '../../shared/standing'
import { usePlans } from './api'
import { CreatePlan } from './CreatePlan'
import { PlanLine } from './PlanLine'
import { AWAY, byFamily, STATES, stateOf, type Summary } from './planStates'

const FEW = 5 // more than these are looked through

export function PlansPage() {
  const { t } = useTranslation()
  const plans = usePlans()
  const reference = useReference()
  const { isLead } = useRole()
  const [creating, setCreating] = useState<{ copyOf?: string } | null>(null)
  const { state } = useSought()
  const found = useFound(plans.data ?? [], (plan) => plan.name, stateOf).filter(
    (plan) => state === AWAY || isCurrent(plan),
  )
  if (!plans.data) return <Waiting problem={plans.error} again={() => void plans.refetch()} />
  const away = plans.data.some((plan) => !isCurrent(plan))
  const order = (reference.data?.families ?? []).map((family) => family.key)
  return (
    <>
      <PageBar title={t('plans.title')}>
        {isLead && (
          <Link to="/plans/recipe" className="btn btn-outline-primary">
            {t('recipes.from')}
          </Link>
        )}
        {isLead && <Button onClick={() => setCreating({})}>{t('plans.create')}</Button>}
      </PageBar>
      <div className="page">
        {plans.data.length === 0 && <p className="sheet quiet">{t('plans.empty')}</p>}
        {(plans.data.length > FEW || away) && (
          <FindBar states={STATES} nameOf={(each) => t(`find.${each}` as never)} label={t('find.plan')} />
        )}
        {plans.data.length > 0 && found.length === 0 && <p className="sheet quiet">{t('find.none')}</p>}
        {byFamily(found, order).map(([family, members]) => (
          <Family
            key={family}
            name={members[0]?.family_name ?? ''}
            members={members}
            onCopy={(id) => setCreating({ copyOf: id })}
          />
        ))}
      </div>
      <p className="page caution">{t('caution')}</p>
      {creating && <CreatePlan copyOf={creating.copyOf} onClose={() => setCreating(null)} />}
    </>
  )
}

interface FamilyProps {
  name: string
  members: readonly Summary[]
  onCopy: (planId: string) => void
}

/** The plans of one family under its name. */
function Family({ name, members, onCopy }: FamilyProps) {
  return (
    <section aria-label={name}>
      <h2 className="family-name">{name}</h2>
      <ul className="plain-list">
        {members.map((plan) => (
          <PlanLine key={plan.plan_id} plan={plan} onCopy={() => onCopy(plan.plan_id)} />
        ))}
      </ul>
    </section>
  )
}
