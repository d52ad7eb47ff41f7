import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useInstruments } from '../../shared/session'
import { AddInstrument } from './AddInstrument'
import { KitItem } from './KitItem'

/** What is measured with, when it was checked, and against what. */
export function Kit() {
  const { t } = useTranslation()
  const instruments = useInstruments()
  return (
    <section className="sheet">
      <h2>{t('household.kit')}</h2>
      <ProblemLine problem={instruments.error} again={() => void instruments.refetch()} />
      <ul className="assumed rule-rows">
        {(instruments.data ?? []).map((item) => (
          <KitItem key={item.id} item={item} />
        ))}
      </ul>
      <AddInstrument />
    </section>
  )
}
