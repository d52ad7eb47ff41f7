import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import type { Reference } from '../../shared/reference'
import type { Plan } from './api'
import { kindOf, mainSettings } from './kinds'

/** The process as a strip of steps, each with its setting; critical ones say so. */
export function ProcessStrip({
  plan,
  reference,
  chosen,
  onChoose,
}: {
  plan: Plan
  reference: Reference
  chosen: string | null
  onChoose: (id: string) => void
}) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const critical = new Set(plan.controls.map((control) => control.step))
  return (
    <div className="strip">
      {plan.steps.map((step) => {
        const [main, rest] = mainSettings(kindOf(reference, step), step, choice, (option) =>
          t(`bench.options.${option}` as never),
        )
        return (
          <button
            type="button"
            key={step.id}
            className={chosen === step.id ? 'strip-step chosen' : 'strip-step'}
            onClick={() => onChoose(step.id)}
          >
            <span className="strong">{step.name}</span>
            <span className="setting">{main}</span>
            <span className="quiet small">{rest}</span>
            {critical.has(step.id) && (
              <span>
                <span className="critical">{t('plans.critical')}</span>
              </span>
            )}
          </button>
        )
      })}
    </div>
  )
}
