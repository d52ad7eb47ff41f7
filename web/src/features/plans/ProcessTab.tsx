import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Picker } from '../../shared/parts/Picker'
import { useRole } from '../../shared/session'
import type { Plan, Reference, Step } from './api'
import { NumberField } from './NumberField'
import { RuleSets } from './RuleSets'
import { BLANKS, SETTINGS, valueOf } from './settings'
import type { Draft } from './useDraft'

interface Props {
  draft: Draft
  reference: Reference
  chosen: string | null
  onChoose: (id: string | null) => void
}

export function ProcessTab({ draft, reference, chosen, onChoose }: Props) {
  const { plan, change } = draft
  const step = plan.steps.find((each) => each.id === chosen) ?? plan.steps.find((each) => each.kind === 'bath_cook') ?? plan.steps[0]
  return (
    <>
      {step && <StepSheet draft={draft} step={step} onChoose={onChoose} />}
      <Dish draft={draft} reference={reference} />
      <RuleSets plan={plan} reference={reference} onPick={(rules) => change({ rule_set: rules, controls: [] })} />
    </>
  )
}

function StepSheet({ draft, step, onChoose }: { draft: Draft; step: Step; onChoose: (id: string | null) => void }) {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const { plan, change } = draft
  const index = plan.steps.findIndex((each) => each.id === step.id)
  const put = (next: Step) => change({ steps: plan.steps.map((each) => (each.id === step.id ? next : each)) })
  function move(by: number) {
    const steps = [...plan.steps]
    const [taken] = steps.splice(index, 1)
    if (taken) steps.splice(index + by, 0, taken)
    change({ steps })
  }
  return (
    <section className="sheet">
      <div className="row-line mb-3">
        <h2 className="mb-0">{step.name} {t(`kinds.${step.kind}`) !== step.name && <span className="quiet">{t(`kinds.${step.kind}`)}</span>}</h2>
        {isLead && (
          <div className="push row-line">
            <Button size="sm" variant="link" disabled={index === 0} onClick={() => move(-1)}>{t('plans.moveBack')}</Button>
            <Button size="sm" variant="link" disabled={index === plan.steps.length - 1} onClick={() => move(1)}>{t('plans.moveOn')}</Button>
            <Button size="sm" variant="link" onClick={() => { change(withoutStep(plan, step.id)); onChoose(null) }}>{t('plans.remove')}</Button>
          </div>
        )}
      </div>
      <div className="fields" key={step.id}>
        <Form.Group controlId="step-name">
          <Form.Label>{t('fields.name')}</Form.Label>
          <Form.Control disabled={!isLead} value={step.name} maxLength={80} onChange={(event) => event.target.value && put({ ...step, name: event.target.value })} />
        </Form.Group>
        {SETTINGS[step.kind].map((setting) => (
          <NumberField key={setting.field} setting={setting} disabled={!isLead} value={valueOf(step, setting.field)} onChange={(value) => put({ ...step, [setting.field]: setting.field === 'packs' ? Math.round(value) : value })} />
        ))}
      </div>
      {isLead && (
        <Picker
          label={t('plans.addStep')}
          choices={Object.keys(BLANKS).map((kind) => [kind, t(`kinds.${kind}`)] as const)}
          onPick={(kind) => {
            const added = stepOf(plan, kind as Step['kind'], t(`kinds.${kind}`))
            change({ steps: insertedAfter(plan.steps, index, added) })
            onChoose(added.id)
          }}
        />
      )}
    </section>
  )
}

function stepOf(plan: Plan, kind: Step['kind'], name: string): Step {
  const base = kind.split('_').at(-1) ?? kind
  const taken = new Set(plan.steps.map((step) => step.id))
  let id = base
  for (let n = 2; taken.has(id); n += 1) id = `${base}-${n}`
  return { ...BLANKS[kind], id, name } as Step
}

function insertedAfter(steps: readonly Step[], index: number, added: Step): Step[] {
  return [...steps.slice(0, index + 1), added, ...steps.slice(index + 1)]
}

function withoutStep(plan: Plan, id: string): Partial<Plan> {
  return {
    steps: plan.steps.filter((step) => step.id !== id),
    controls: plan.controls.filter((control) => control.step !== id),
    hazards: plan.hazards.map((hazard) => ({ ...hazard, decisions: hazard.decisions.filter((decision) => decision.step !== id) })),
  }
}

function Dish({ draft, reference }: { draft: Draft; reference: Reference }) {
  const { t } = useTranslation()
  const { isLead } = useRole()
  const { plan, change } = draft
  return (
    <section className="sheet">
      <div className="fields">
        <Form.Group controlId="dish-name">
          <Form.Label>{t('plans.name')}</Form.Label>
          <Form.Control disabled={!isLead} value={plan.name} maxLength={120} onChange={(event) => event.target.value && change({ name: event.target.value })} />
        </Form.Group>
        <Form.Group controlId="dish-guests">
          <Form.Label>{t('plans.guests')}</Form.Label>
          <Form.Select disabled={!isLead} value={plan.guests} onChange={(event) => change({ guests: event.target.value === 'higher_risk' ? 'higher_risk' : 'general' })}>
            <option value="general">{t('plans.general')}</option>
            <option value="higher_risk">{t('plans.higher_risk')}</option>
          </Form.Select>
        </Form.Group>
      </div>
      <Form.Group controlId="dish-product" className="mt-3">
        <Form.Label>{t('plans.product')}</Form.Label>
        <Form.Control as="textarea" rows={2} disabled={!isLead} maxLength={600} value={plan.product} onChange={(event) => change({ product: event.target.value })} />
      </Form.Group>
      <h3 className="mt-3">{t('plans.ingredients')}</h3>
      <ul className="plain-list ingredients">
        {plan.ingredients.map((item) => (
          <li key={item.name} className="row-line">
            <span>{item.name}</span>
            {isLead && <Button size="sm" variant="link" className="push" onClick={() => change({ ingredients: plan.ingredients.filter((each) => each !== item) })}>{t('plans.remove')}</Button>}
          </li>
        ))}
      </ul>
      {isLead && (
        <Picker
          label={t('plans.addIngredient')}
          choices={reference.catalogue.ingredients.filter((each) => !plan.ingredients.some((item) => item.catalogue === each.key)).map((each) => [each.key, each.name] as const)}
          onPick={(key) => {
            const found = reference.catalogue.ingredients.find((each) => each.key === key)
            if (found) change({ ingredients: [...plan.ingredients, { name: found.name, catalogue: found.key, allergens: found.allergens }] })
          }}
        />
      )}
    </section>
  )
}
