import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { confirm, type Holder, isOf, takeOut, useOutbox, type Waiting } from '../outbox'
import { useHolder } from '../session'

/** What is still on this tablet alone: nobody may take it for recorded. */
export function OutboxBar() {
  const { t } = useTranslation()
  const holder = useHolder()
  const entries = useOutbox(holder)
  if (!entries.length) return null
  // whose it is decides where it goes: another's is neither sent nor shown as refused here
  const mine = entries.filter((each) => isOf(each, holder))
  const open = mine.filter((each) => !each.refusal)
  return (
    <div className="outbox" role="status">
      {open.length > 0 && <p>{t('outbox.waits', { count: open.length })}</p>}
      {mine.map((each) => (
        <Entry key={each.key} entry={each} />
      ))}
      {othersOf(entries, holder).map(([name, count]) => (
        <p key={name}>{t('outbox.others', { count, name: name || t('outbox.nobody') })}</p>
      ))}
    </div>
  )
}

/** How many wait of each other person. */
function othersOf(entries: Waiting[], holder: Holder | null): [string, number][] {
  const counts = new Map<string, number>()
  for (const each of entries.filter((entry) => !isOf(entry, holder))) {
    const name = each.person?.name ?? ''
    counts.set(name, (counts.get(name) ?? 0) + 1)
  }
  return [...counts]
}

function Entry({ entry }: { entry: Waiting }) {
  const { t } = useTranslation()
  return (
    <p className="row-line">
      <Link to={`/batches/${entry.batchId}`}>{entry.batchCode}</Link> {entry.text}
      {entry.refusal && (
        <strong>{t(entry.asked ? 'outbox.asked' : 'outbox.refused', { sentence: entry.refusal })}</strong>
      )}
      {entry.asked && (
        <Button size="sm" onClick={() => confirm(entry)}>
          {t('outbox.allTheSame')}
        </Button>
      )}
      {entry.refusal && (
        <Button size="sm" variant="outline-primary" onClick={() => takeOut(entry.key)}>
          {t('outbox.seen')}
        </Button>
      )}
    </p>
  )
}
