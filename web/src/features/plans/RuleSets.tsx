import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { useMayWrite } from './writing'
import { useUnits } from '../../shared/units'
import type { Reference } from '../../shared/reference'
import type { Plan } from './api'
import { kindOf } from './kinds'

/** What each rule set asks of this dish, side by side; the kitchen answers to one. */
export function RuleSets({
  plan,
  reference,
  onPick,
}: {
  plan: Plan
  reference: Reference
  onPick: (rules: Plan['rule_set']) => void
}) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const topics = new Set(plan.steps.flatMap((step) => kindOf(reference, step)?.topics ?? []))
  return (
    <section className="sheet">
      <h2>{t('plans.both')}</h2>
      <div className="rules-two">
        {reference.rule_sets.map((rules) => (
          <div key={rules.id}>
            <Form.Check
              type="radio"
              id={`rules-${rules.id}`}
              name="rules"
              disabled={!mayWrite}
              checked={plan.rule_set === rules.id}
              onChange={() => onPick(rules.id as Plan['rule_set'])}
              label={<span className="strong">{words(rules.name)}</span>}
            />
            <p className="quiet small">{rules.edition}</p>
            <ul className="assumed rule-rows">
              {rules.entries
                .filter((entry) => topics.has(entry.topic))
                .map((entry) => (
                  <li key={entry.topic + entry.limit.id}>
                    <span className={entry.preferred ? 'strong' : ''}>{words(entry.limit.title)}</span>
                    <span className="quiet small d-block">{words(entry.limit.source.citation)}</span>
                  </li>
                ))}
            </ul>
          </div>
        ))}
      </div>
    </section>
  )
}
