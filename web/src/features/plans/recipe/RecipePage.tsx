import '../../../shared/look/recipes.css'
import '../../../shared/text/laterWords'

import { useEffect, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import { PageBar } from '../../../shared/parts/PageBar'
import { ProblemLine } from '../../../shared/parts/ProblemLine'
import { useRole } from '../../../shared/session'
import { type Answers, keyOf, withAnswers } from './answering'
import { type Reading, useBegin, useReading } from './api'
import { ReadList } from './ReadList'
import { RecipeQuestions } from './RecipeQuestions'
import { RecipeVerdict } from './RecipeVerdict'

const PAUSE_MS = 500 // after so long without a key it is read
const KEPT = 'brinefrost.recipe' // what was typed, until a plan is made of it

/** A recipe, and beside it what it comes to: the plan, what was assumed, one question at a time. */
export function RecipePage() {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const [text, setText] = useState(() => sessionStorage.getItem(KEPT) ?? '')
  const settled = useSettled(text)
  const reading = useReading(settled)
  const [answers, setAnswers] = useState<Answers>({})
  const found = settled.trim() && !reading.error ? reading.data : undefined
  return (
    <>
      <PageBar title={t('recipes.title')} />
      <div className="page recipe-page">
        <Form.Group controlId="recipe-text" className="sheet">
          <Form.Label>{t('recipes.paste')}</Form.Label>
          <Form.Control
            as="textarea"
            rows={18}
            maxLength={20000}
            autoFocus
            disabled={!isLead}
            placeholder={t('recipes.example')}
            value={text}
            onChange={(event) => {
              setText(event.target.value)
              sessionStorage.setItem(KEPT, event.target.value)
            }}
          />
          <ProblemLine problem={settled.trim() ? reading.error : null} />
        </Form.Group>
        {found ? (
          <Draft reading={found} answers={answers} onAnswers={setAnswers} />
        ) : (
          <p className="sheet quiet">{t('recipes.nothing')}</p>
        )}
      </div>
      <p className="page caution">{t('caution')}</p>
    </>
  )
}

function useSettled(text: string): string {
  const [settled, setSettled] = useState(text)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [text])
  return settled
}

interface DraftProps {
  reading: Reading
  answers: Answers
  onAnswers: (answers: Answers) => void
}

function Draft({ reading, answers, onAnswers }: DraftProps) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const begin = useBegin()
  const plan = withAnswers(reading.plan, reading.questions, answers)
  function create() {
    begin.mutate(
      { name: plan.name, rule_set: plan.rule_set, template: 'blank', document: plan },
      {
        onSuccess: (made) => {
          sessionStorage.removeItem(KEPT)
          void navigate(`/plans/${made.plan_id}`)
        },
      },
    )
  }
  return (
    <section aria-label={plan.name} className="recipe-draft">
      <div className="sheet recipe-head">
        <div>
          <h2 className="mb-1">{plan.name}</h2>
          <RecipeVerdict plan={plan} />
        </div>
        <Button onClick={create} disabled={begin.isPending}>
          {t('recipes.make')}
        </Button>
        <ProblemLine problem={begin.error} />
      </div>
      <RecipeQuestions
        plan={plan}
        questions={reading.questions}
        answers={answers}
        onAnswer={(question, option) =>
          onAnswers({ ...answers, [keyOf(question)]: question.options[option]?.words ?? '' })
        }
      />
      <ReadList reading={reading} plan={plan} />
    </section>
  )
}
