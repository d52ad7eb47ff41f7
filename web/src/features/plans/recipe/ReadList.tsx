import { useTranslation } from 'react-i18next'

import { massOf } from '../../../shared/quantities'
import { useUnits } from '../../../shared/units'
import type { Plan, Reading } from './api'

/** What was understood: the goods with their mass, the steps with what was assumed of each, and what was not read. */
export function ReadList({ reading, plan }: { reading: Reading; plan: Plan }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const nameOf = (id: string) => plan.steps?.find((step) => step.id === id)?.name ?? id
  return (
    <>
      <section className="sheet">
        <h3>{t('plans.ingredients')}</h3>
        <ul className="plain-list recipe-goods">
          {reading.ingredients.map((item) => (
            <li key={item.text}>
              <span className={item.catalogue ? 'strong' : 'strong recipe-open'}>{words(item.name)}</span>
              <span>{massOf(item.kg ?? 0)}</span>
              <span className="quiet small">
                {item.catalogue ? words(item.assumed ?? '') : t('recipes.notInCatalogue')}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section className="sheet">
        <h3>{t('recipes.steps')}</h3>
        <ol className="plain-list recipe-steps">
          {reading.steps.map((step) => (
            <li key={step.step}>
              <span className="strong">{words(nameOf(step.step))}</span>
              <span className="quiet">{step.text ? `“${step.text}”` : ''}</span>
              {step.assumed?.map((each) => (
                <span key={each} className="small recipe-assumed">
                  {t('recipes.assumed')}: {words(each)}
                </span>
              ))}
            </li>
          ))}
        </ol>
        {reading.unread.length > 0 && (
          <p className="recipe-open mb-0">
            {t('recipes.unread')}: {reading.unread.map((each) => `“${each}”`).join(', ')}
          </p>
        )}
      </section>
    </>
  )
}
