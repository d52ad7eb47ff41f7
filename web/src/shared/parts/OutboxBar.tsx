import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { timeOf } from '../clock'
import { takeOut, useOutbox, type Waiting } from '../outbox'

/** Readings that are still on this tablet alone: nobody may take them for logged. */
export function OutboxBar() {
  const { t } = useTranslation()
  const entries = useOutbox()
  if (!entries.length) return null
  const open = entries.filter((each) => !each.refusal)
  return (
    <div className="outbox" role="status">
      {open.length > 0 && <p>{t('outbox.waits', { count: open.length })}</p>}
      {entries.map((each) => (
        <Entry key={each.key} entry={each} />
      ))}
    </div>
  )
}

function Entry({ entry }: { entry: Waiting }) {
  const { t } = useTranslation()
  const said = t('outbox.entry', {
    what: entry.what,
    value: entry.body.value,
    unit: entry.body.unit,
    time: timeOf(Date.parse(entry.body.taken_at)),
  })
  return (
    <p className="row-line">
      <Link to={`/batches/${entry.batchId}`}>{entry.batchCode}</Link> {said}
      {entry.refusal && <strong>{t('outbox.refused', { sentence: entry.refusal })}</strong>}
      {entry.refusal && (
        <Button size="sm" variant="outline-primary" onClick={() => takeOut(entry.key)}>
          {t('outbox.seen')}
        </Button>
      )}
    </p>
  )
}
