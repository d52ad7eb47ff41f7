import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import type { Plan } from './api'
import { mainSettings } from './settings'

/** The process as a strip of steps, each with its setting; critical ones say so. */
export function ProcessStrip({ plan, chosen, onChoose }: { plan: Plan; chosen: string | null; onChoose: (id: string) => void }) {
  const { t } = useTranslation()
  const { temp, words } = useUnits()
  const critical = new Set(plan.controls.map((control) => control.step))
  return (
    <div className="strip">
      {plan.steps.map((step) => {
        const [main, rest] = mainSettings(step, temp)
        return (
          <button type="button" key={step.id} className={chosen === step.id ? 'strip-step chosen' : 'strip-step'} onClick={() => onChoose(step.id)}>
            <span className="strong">{step.name}</span>
            <span className="setting">{words(main)}</span>
            <span className="quiet small">{words(rest)}</span>
            {critical.has(step.id) && <span><span className="critical">{t('plans.critical')}</span></span>}
          </button>
        )
      })}
    </div>
  )
}
