import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'

const MOST = 60 // more differences than these are another plan

/** What differs, each with where it stands, as it was and as it is. */
export function ChangeTable({ changes, before, after }: Props) {
  const { t } = useTranslation()
  return (
    <div className="table-responsive">
      <table className="table">
        <thead>
          <tr>
            <th />
            <th>{before}</th>
            <th>{after}</th>
          </tr>
        </thead>
        <tbody>
          {changes.slice(0, MOST).map((each) => (
            <tr key={each.where}>
              <td>{each.where}</td>
              <td>{each.before}</td>
              <td className="strong">{each.after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {changes.length > MOST && <p className="quiet">{t('plans.moreChanges', { count: changes.length - MOST })}</p>}
    </div>
  )
}

interface Props {
  changes: readonly Schemas['Change'][]
  before: string
  after: string
}
