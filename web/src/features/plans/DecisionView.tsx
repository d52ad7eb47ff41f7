import { useState } from 'react'
import { Button, ButtonGroup, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import type { Decision, Tree } from './api'
import { walk } from './trees'

interface Props {
  decision: Decision
  stepName: string
  /** The steps behind this one, for whichever of them does it. */
  later: readonly { id: string; name: string }[]
  trees: readonly Tree[]
  disabled: boolean
  onChange: (decision: Decision) => void
}

/** One hazard at one step: the tree's questions one after the other, answers and reasons kept. */
export function DecisionView({ decision, stepName, later, trees, disabled, onChange }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const { asked, outcome } = walk(trees, decision)
  const [open, setOpen] = useState(outcome === 'open')
  const answerOf = (id: string) => decision.answers.find((each) => each.question === id)
  function answer(question: string, yes: boolean, reason: string, by_step = answerOf(question)?.by_step ?? '') {
    const others = decision.answers.filter((each) => each.question !== question)
    onChange({ ...decision, answers: [...others, { question, yes, reason, by: '', by_step: yes ? by_step : '' }] })
  }
  return (
    <div className="decision">
      <div className="row-line">
        <span>{t('plans.decision', { step: stepName })}</span>
        <span className={`outcome ${outcome}`}>{t(`plans.outcome.${outcome}`)}</span>
        <Button variant="link" className="fold push" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? t('batch.hide') : t('plans.because')}
        </Button>
      </div>
      {!open && decision.answers[0]?.reason && (
        <p className="quiet mb-0">{words(decision.answers.at(-1)?.reason ?? '')}</p>
      )}
      {open && (
        <>
          <Form.Select
            className="narrow mb-2"
            aria-label={t('plans.tree')}
            disabled={disabled}
            value={decision.tree}
            onChange={(event) => onChange({ ...decision, tree: event.target.value as Decision['tree'], answers: [] })}
          >
            {trees.map((tree) => (
              <option key={tree.id} value={tree.id}>
                {words(tree.name)}
              </option>
            ))}
          </Form.Select>
          {asked.map((question) => {
            const given = answerOf(question.id)
            return (
              <div className="question" key={question.id}>
                <span>{words(question.text)}</span>
                <ButtonGroup>
                  {[true, false].map((yes) => (
                    <Button
                      key={String(yes)}
                      variant={given?.yes === yes ? 'primary' : 'outline-primary'}
                      aria-pressed={given?.yes === yes}
                      disabled={disabled}
                      onClick={() => answer(question.id, yes, given?.reason ?? '')}
                    >
                      {t(yes ? 'plans.yes' : 'plans.no')}
                    </Button>
                  ))}
                </ButtonGroup>
                {question.id === 'later' && given?.yes && (
                  <Form.Select
                    aria-label={t('plans.laterStep')}
                    disabled={disabled}
                    value={given.by_step}
                    onChange={(event) => answer(question.id, true, given.reason, event.target.value)}
                  >
                    <option value="">{t('plans.laterStep')}</option>
                    {later.map((step) => (
                      <option key={step.id} value={step.id}>
                        {words(step.name)}
                      </option>
                    ))}
                  </Form.Select>
                )}
                {given && (
                  <Form.Control
                    aria-label={t('plans.because')}
                    placeholder={t('plans.because')}
                    disabled={disabled}
                    value={words(given.reason)}
                    onChange={(event) => answer(question.id, given.yes, event.target.value)}
                  />
                )}
              </div>
            )
          })}
        </>
      )}
    </div>
  )
}
