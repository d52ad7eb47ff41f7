import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useUnits } from '../../shared/units'
import type { Reference } from '../../shared/reference'
import { type Hazard, usualAnswers, useSuggestions } from './api'
import { DecisionView } from './DecisionView'
import { outcomeOf } from './trees'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

/** The hazards with their reasons, and a decision for each at each step that could control it. */
export function HazardsTab({ draft, reference, planId }: { draft: Draft; reference: Reference; planId: string }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const { plan, change } = draft
  const suggestions = useSuggestions(planId, plan)
  const [problem, setProblem] = useState<unknown>(null)
  const fresh = suggestions.data ?? []
  const isOpen = (decision: Hazard['decisions'][number]) => outcomeOf(reference.trees, decision) === 'open'
  const open = plan.hazards.flatMap((hazard) => hazard.decisions.filter(isOpen))

  /** What is answered or set aside while the usual answers are on their way stays as it is. */
  async function answerAll() {
    try {
      const asked = plan.hazards.flatMap((hazard) =>
        hazard.decisions
          .filter(isOpen)
          .map(async (decision) => ({
            at: `${hazard.key} ${decision.step}`,
            answers: await usualAnswers(planId, plan, hazard.key, decision),
          })),
      )
      const usual = new Map((await Promise.all(asked)).map(({ at, answers }) => [at, answers]))
      change((now) => ({
        hazards: now.hazards.map((hazard) => ({
          ...hazard,
          decisions: hazard.decisions.map((decision) => {
            const answers = isOpen(decision) ? usual.get(`${hazard.key} ${decision.step}`) : undefined
            return answers ? { ...decision, answers } : decision
          }),
        })),
      }))
      setProblem(null)
    } catch (error) {
      setProblem(error)
    }
  }

  return (
    <>
      <ProblemLine problem={problem ?? suggestions.error} />
      {mayWrite && (fresh.length > 0 || open.length > 0) && (
        // above all that comes and goes, the one that stays at its end: what is touched does not slide away
        <div className="row-line mb-2">
          {fresh.length > 0 && (
            <Button onClick={() => change((now) => ({ hazards: withAll(now.hazards, fresh) }))}>
              {t('plans.takeHazards')}
            </Button>
          )}
          {open.length > 0 && (
            <Button
              variant={fresh.length ? 'outline-primary' : 'primary'}
              className="push"
              onClick={() => void answerAll()}
            >
              {t('plans.takeUsual')} ({open.length})
            </Button>
          )}
        </div>
      )}
      {fresh.length > 0 && (
        <section className="sheet">
          <h2>{t('plans.suggested')}</h2>
          {fresh.map((hazard) => (
            <p key={hazard.key} className="mb-2">
              <span className="strong">{words(hazard.name)}.</span> {words(hazard.reason)}
            </p>
          ))}
        </section>
      )}
      {plan.hazards.length > 0 && (
        <section className="sheet">
          {plan.hazards.map((hazard) => (
            <HazardLine key={hazard.key} hazard={hazard} draft={draft} reference={reference} />
          ))}
        </section>
      )}
    </>
  )
}

/** Those that are not there yet are added: who touches twice adds once. */
export function withAll(hazards: readonly Hazard[], more: readonly Hazard[]): Hazard[] {
  return [...hazards, ...more.filter((each) => !hazards.some((known) => known.key === each.key))]
}

export function HazardLine({
  hazard,
  draft,
  reference,
  only,
}: {
  hazard: Hazard
  draft: Draft
  reference: Reference
  only?: string
}) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const mayWrite = useMayWrite()
  const nameOf = (id: string) => words(draft.plan.steps.find((step) => step.id === id)?.name ?? id)
  const laterThan = (id: string) => draft.plan.steps.slice(draft.plan.steps.findIndex((step) => step.id === id) + 1)
  /** Of the hazard as it is by then: what came since it was drawn stays. */
  const put = (changed: (now: Hazard) => Partial<Hazard>) =>
    draft.change((now) => ({
      hazards: now.hazards.map((each) => (each.key === hazard.key ? { ...each, ...changed(each) } : each)),
    }))
  return (
    <div className="hazard">
      <div className="row-line">
        <div>
          <h3>{words(hazard.name)}</h3>
          <p className="mb-0">{words(hazard.reason)}</p>
        </div>
        <Form.Check
          className="push"
          type="switch"
          id={`significant-${hazard.key}`}
          label={t('plans.significant')}
          disabled={!mayWrite}
          checked={hazard.significant}
          onChange={({ target }) => put(() => ({ significant: target.checked }))}
        />
      </div>
      {!hazard.significant && (
        <Form.Control
          className="mt-2"
          aria-label={t('plans.setAside')}
          placeholder={t('plans.setAside')}
          disabled={!mayWrite}
          value={words(hazard.set_aside_because)}
          onChange={({ target }) => put(() => ({ set_aside_because: target.value }))}
        />
      )}
      {hazard.significant &&
        hazard.decisions
          .filter((decision) => !only || decision.step === only)
          .map((decision) => (
            <DecisionView
              key={decision.step}
              decision={decision}
              stepName={nameOf(decision.step)}
              later={laterThan(decision.step)}
              trees={reference.trees}
              disabled={!mayWrite}
              onChange={(next) =>
                put((now) => ({ decisions: now.decisions.map((each) => (each.step === decision.step ? next : each)) }))
              }
            />
          ))}
    </div>
  )
}
