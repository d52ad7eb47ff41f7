import { useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../../shared/parts/ProblemLine'
import { StateMark } from '../../../shared/parts/StateMark'
import { useUnits } from '../../../shared/units'
import { type Plan, proofOf } from './api'
import { markOfProof } from '../planned'

/** What the draft comes to as it stands. Nothing of it is green: what is computed passes nothing. */
export function RecipeVerdict({ plan }: { plan: Plan }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const proof = useQuery(proofOf(plan))
  if (proof.error) return <ProblemLine problem={proof.error} again={() => void proof.refetch()} />
  if (!proof.data)
    return (
      <p role="status" className="quiet mb-0">
        {t('plans.proving')}
      </p>
    )
  return (
    <p className="recipe-verdict mb-0" aria-live="polite">
      <StateMark state={markOfProof(proof.data.state)} bare size={22} /> <span>{words(proof.data.sentence)}</span>
    </p>
  )
}
