import { useTranslation } from 'react-i18next'

import { ProblemLine } from './ProblemLine'

/** A page that is still coming, or could not. */
export function Waiting({ problem, again }: { problem?: unknown; again?: (() => void) | undefined }) {
  const { t } = useTranslation()
  if (problem)
    return (
      <div className="page">
        <ProblemLine problem={problem} again={again} />
      </div>
    )
  return (
    <p className="page quiet" role="status">
      {t('loading')}
    </p>
  )
}
