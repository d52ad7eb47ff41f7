import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { found } from '../../shared/finding'
import type { Starting } from './useStarting'

type Summary = Schemas['PlanSummary']
const nameOf = (plan: Summary) => plan.name
const began = (plan: Summary) => plan.last_batch?.started_at ?? ''

/** Which dish: found by typing; those usual on this day first, then those begun last. Chosen, it stands alone. */
export function PlanChoice({ signed, starting }: { signed: readonly Summary[]; starting: Starting }) {
  const { t } = useTranslation()
  const [typed, setTyped] = useState('')
  const [open, setOpen] = useState(true)
  const chosen = signed.find((plan) => plan.plan_id === starting.planId)
  function type(text: string) {
    setTyped(text)
    const sure = text.trim() ? found(signed, text, nameOf, () => '').sure : null
    starting.choose(sure?.plan_id ?? '')
  }
  if (chosen && !open)
    return (
      <div className="chosen-plan">
        <span>
          <span className="quiet small d-block">{t('batch.plan')}</span>
          <span className="strong">{chosen.name}</span>{' '}
          <span className="quiet">{t('batch.signedVersion', { version: chosen.version?.version })}</span>
        </span>
        <Button variant="outline-primary" onClick={() => setOpen(true)}>
          {t('batch.otherDish')}
        </Button>
      </div>
    )
  return (
    <div>
      <Form.Control
        type="search"
        id="start-find"
        className="mb-2"
        autoFocus
        aria-label={t('batch.findPlan')}
        placeholder={t('batch.findPlan')}
        value={typed}
        onChange={(event) => type(event.target.value)}
      />
      <div role="radiogroup" aria-label={t('batch.plan')} className="plan-choices">
        <Choices
          signed={signed}
          typed={typed}
          chosen={starting.planId}
          onChoose={starting.choose}
          onTap={() => setOpen(false)}
        />
      </div>
    </div>
  )
}

interface ChoicesProps {
  signed: readonly Summary[]
  typed: string
  chosen: string
  onChoose: (planId: string) => void
  onTap: () => void
}

function Choices({ signed, typed, ...choosing }: ChoicesProps) {
  const { t } = useTranslation()
  if (typed.trim()) {
    const { shown } = found(signed, typed, nameOf, () => '')
    if (shown.length === 0) return <p className="quiet mb-0">{t('find.none')}</p>
    return shown.map((plan) => <Choice key={plan.plan_id} plan={plan} {...choosing} />)
  }
  const sorted = [...signed].sort((a, b) => began(b).localeCompare(began(a)) || a.name.localeCompare(b.name))
  const groups = [
    [t('batch.likely'), sorted.filter((plan) => plan.likely)],
    [t('batch.lastUsed'), sorted.filter((plan) => !plan.likely)],
  ] as const
  return groups.map(
    ([title, members]) =>
      members.length > 0 && (
        <div key={title}>
          <p className="quiet small mb-1">{title}</p>
          {members.map((plan) => (
            <Choice key={plan.plan_id} plan={plan} {...choosing} />
          ))}
        </div>
      ),
  )
}

type ChoiceProps = Omit<ChoicesProps, 'signed' | 'typed'> & { plan: Summary }

/** A tap chooses and is done; the keys of a keyboard walk the list, and each is a choice on the way. */
function Choice({ plan, chosen, onChoose, onTap }: ChoiceProps) {
  const { t } = useTranslation()
  return (
    <label className="plan-choice">
      <input
        type="radio"
        name="start-plan"
        required
        checked={plan.plan_id === chosen}
        onChange={() => onChoose(plan.plan_id)}
        onClick={(event) => event.detail > 0 && onTap()}
      />
      <span>
        <span className="strong d-block">{plan.name}</span>
        <span className="quiet small">
          {t('batch.signedVersion', { version: plan.version?.version })}
          {plan.last_batch && ` · ${plan.last_batch.code}, ${whenOf(plan.last_batch.started_at)}`}
        </span>
      </span>
    </label>
  )
}
