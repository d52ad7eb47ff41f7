import { useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { StateMark } from '../../../shared/parts/StateMark'
import { useUnits } from '../../../shared/units'
import { type Answers, chosenOf, withOption } from './answering'
import { type Plan, proofOf, type Question } from './api'
import { markOfProof } from '../planned'

interface Props {
  plan: Plan
  questions: readonly Question[]
  answers: Answers
  onAnswer: (question: Question, option: number) => void
}

/** What the recipe does not say, one at a time: each usual answer with what the verdict would be. */
export function RecipeQuestions({ plan, questions, answers, onAnswer }: Props) {
  const { t } = useTranslation()
  const [wanted, setAt] = useState(0)
  const at = Math.min(wanted, questions.length - 1) // another text may ask less
  const question = questions[at]
  if (!question) return null
  const step = plan.steps?.find((each) => each.id === question.step)
  return (
    <section className="sheet" aria-label={t('recipes.asks')}>
      <p className="quiet small mb-1">
        {t('recipes.questionOf', { at: at + 1, count: questions.length })}
        {!question.ingredient && step && ` · ${step.name}`}
      </p>
      <h3>{question.words}</h3>
      <Options
        plan={plan}
        question={question}
        chosen={chosenOf(question, answers)}
        onChoose={(option) => {
          onAnswer(question, option)
          if (at < questions.length - 1) setAt(at + 1)
        }}
      />
      <div className="row-line mt-2">
        <Button variant="link" disabled={at === 0} onClick={() => setAt(at - 1)}>
          {t('recipes.before')}
        </Button>
        <Button variant="link" disabled={at >= questions.length - 1} onClick={() => setAt(at + 1)}>
          {t('recipes.next')}
        </Button>
      </div>
    </section>
  )
}

interface OptionsProps {
  plan: Plan
  question: Question
  chosen: number
  onChoose: (option: number) => void
}

function Options({ plan, question, chosen, onChoose }: OptionsProps) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const proofs = useQueries({ queries: question.options.map((_, i) => proofOf(withOption(plan, question, i))) })
  return (
    <div className="recipe-options">
      {question.options.map((option, i) => {
        const state = proofs[i]?.data?.state
        return (
          <Button
            key={option.words}
            variant={i === chosen ? 'primary' : 'outline-primary'}
            aria-pressed={i === chosen}
            onClick={() => onChoose(i)}
          >
            <span className="strong d-block">{words(option.words)}</span>
            {state && (
              <span className="small">
                <StateMark state={markOfProof(state)} bare size={16} /> {t(`recipes.state.${state}`)}
              </span>
            )}
          </Button>
        )
      })}
    </div>
  )
}
