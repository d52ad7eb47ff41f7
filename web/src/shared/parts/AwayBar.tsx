import { useTranslation } from 'react-i18next'

import { timeOf } from '../clock'
import { useAway } from '../reach'

/** Nothing answers: what stands here is as last seen, and nobody may take it for now. */
export function AwayBar() {
  const { t } = useTranslation()
  const since = useAway()
  if (since === null) return null
  return (
    <p className="outbox away" role="status">
      {t('outbox.away', { time: timeOf(since) })}
    </p>
  )
}
