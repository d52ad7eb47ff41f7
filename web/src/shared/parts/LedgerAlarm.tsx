import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { useLastCheck, useLedgerEnd } from '../ledgerEnd'
import { useSession } from '../session'
import { useUnits } from '../units'

/** The records do not hold: said on every page to whoever signs or reviews, until somebody has looked. */
export function LedgerAlarm() {
  const { t } = useTranslation()
  const { words } = useUnits()
  const session = useSession().data
  const end = useLedgerEnd(session?.person ? session.kitchen : undefined).data
  const found = useLastCheck(session?.person?.id).data?.found
  const lost = end && !end.holds
  if (!lost && (!found || found.holds)) return null
  return (
    <p className="outbox alarm" role="alert">
      <strong>{lost ? t('outbox.lost', { seq: end.seq }) : words(found?.sentence ?? '')}</strong>{' '}
      <Link to="/ledger">{t('places.ledger')}</Link>
    </p>
  )
}
