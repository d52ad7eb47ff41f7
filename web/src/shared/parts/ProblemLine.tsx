import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Problem } from '../client/client'
import { useUnits } from '../units'

interface Props {
  problem: unknown
  again?: (() => void) | undefined
  /** Where the server is away: keep it on this tablet, to be sent by itself. */
  keepHere?: (() => void) | null | undefined
}

/** What went wrong, in a sentence, and a way to try again. */
export function ProblemLine({ problem, again, keepHere }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (!problem) return null
  const text =
    problem instanceof Problem
      ? problem.message || (problem.code === 'offline' ? t('problem.offline') : t('problem.unknown'))
      : t('problem.unknown')
  return (
    <div className="problem" role="alert">
      <svg width="18" height="18" viewBox="0 0 20 20" aria-hidden="true">
        <path d="M10 2L19 17H1Z" className="mark-late" />
      </svg>
      <span>{words(text)}</span>
      {keepHere && (
        <Button size="sm" className="push" onClick={keepHere}>
          {t('pad.later')}
        </Button>
      )}
      {again && (
        <Button size="sm" variant="outline-primary" className="push" onClick={again}>
          {t('problem.again')}
        </Button>
      )}
    </div>
  )
}
