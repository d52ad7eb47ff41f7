import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { NumberInput } from '../../shared/parts/NumberInput'
import { Picker } from '../../shared/parts/Picker'
import type { Reference } from '../../shared/reference'
import type { Plan, Step } from './api'
import { choiceKeys, type Kind, kindOf, valueOf, withValue } from './kinds'
import { moved } from './moving'
import { applies } from '../../shared/applies'
import { LineFields } from './LineFields'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

interface Props {
  draft: Draft
  reference: Reference
  step: Step
  onChoose: (id: string | null) => void
}

/** One step: its name, the settings its kind asks for, its place in the process. */
export function StepSheet({ draft, reference, step, onChoose }: Props) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { plan, change } = draft
  const index = plan.steps.findIndex((each) => each.id === step.id)
  const put = (next: (now: Step) => Step) =>
    change((now) => ({ steps: now.steps.map((each) => (each.id === step.id ? next(each) : each)) }))
  const kindName = t(`kinds.${step.kind}`)
  const move = (by: number) => change((now) => ({ steps: moved(now.steps, step.id, by) }))
  function add(kind: Kind) {
    const added = stepOf(plan, kind, t(`kinds.${kind.key as Step['kind']}`), step.line)
    change((now) => ({ steps: now.steps.flatMap((each) => (each.id === step.id ? [each, added] : [each])) }))
    onChoose(added.id)
  }
  return (
    <section className="sheet">
      <div className="row-line mb-3">
        <h2 className="mb-0">
          {step.name} {kindName !== step.name && <span className="quiet">{kindName}</span>}
        </h2>
        {mayWrite && (
          <div className="push row-line">
            <Button size="sm" variant="link" disabled={index === 0} onClick={() => move(-1)}>
              {t('plans.moveBack')}
            </Button>
            <Button size="sm" variant="link" disabled={index === plan.steps.length - 1} onClick={() => move(1)}>
              {t('plans.moveOn')}
            </Button>
            <Button
              size="sm"
              variant="link"
              onClick={() => {
                change((now) => withoutStep(now, step.id))
                onChoose(null)
              }}
            >
              {t('plans.remove')}
            </Button>
          </div>
        )}
      </div>
      <div className="fields" key={step.id}>
        <Form.Group controlId="step-name">
          <Form.Label>{t('fields.name')}</Form.Label>
          <Form.Control
            disabled={!mayWrite}
            value={step.name}
            maxLength={80}
            onChange={(event) => event.target.value && put((now) => ({ ...now, name: event.target.value }))}
          />
        </Form.Group>
        {kindOf(reference, step)
          ?.fields.filter((spec) => applies(spec.only, step))
          .map((spec) => (
            <Setting
              key={spec.name}
              spec={spec}
              step={step}
              disabled={!mayWrite}
              onChange={(value) => put((now) => withValue(now, spec, value))}
            />
          ))}
      </div>
      <LineFields draft={draft} step={step} put={put} />
      {mayWrite && (
        <Picker
          label={t('plans.addStep')}
          choices={reference.step_kinds.map((kind) => [kind.key, t(`kinds.${kind.key as Step['kind']}`)] as const)}
          onPick={(key) => {
            const kind = reference.step_kinds.find((each) => each.key === key)
            if (kind) add(kind)
          }}
        />
      )}
    </section>
  )
}

function Setting({
  spec,
  step,
  disabled,
  onChange,
}: {
  spec: Schemas['FieldSpec']
  step: Step
  disabled: boolean
  onChange: (value: unknown) => void
}) {
  const { t } = useTranslation()
  const value = valueOf(step, spec.name)
  const label = t(`fields.${spec.name}` as never) as string
  const id = `field-${spec.name}`
  if (spec.kind === 'flag')
    return (
      <Form.Check
        id={id}
        type="switch"
        label={label}
        disabled={disabled}
        checked={value === true}
        onChange={(event) => onChange(event.target.checked)}
      />
    )
  if (spec.kind === 'choice') {
    return (
      <Form.Group controlId={id}>
        <Form.Label>{label}</Form.Label>
        <Form.Select disabled={disabled} value={String(value)} onChange={(event) => onChange(event.target.value)}>
          {(spec.options ?? []).map((option) => (
            <option key={option} value={option}>
              {t(choiceKeys(option) as never) as string}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    )
  }
  return (
    <NumberInput
      stacked
      id={id}
      spec={spec}
      label={label}
      disabled={disabled}
      value={typeof value === 'number' ? value : null}
      onChange={(next) => next !== null && onChange(next)}
    />
  )
}

function stepOf(plan: Plan, kind: Kind, name: string, line: string): Step {
  const base = kind.key.split('_').at(-1) ?? kind.key
  const taken = new Set(plan.steps.map((step) => step.id))
  let id = base
  for (let n = 2; taken.has(id); n += 1) id = `${base}-${n}`
  return { ...kind.blank, id, name, line, takes: [] as string[], out_of: '' } as unknown as Step
}

function withoutStep(plan: Plan, id: string): Partial<Plan> {
  return {
    steps: plan.steps.filter((step) => step.id !== id),
    controls: plan.controls.filter((control) => control.step !== id),
    ingredients: plan.ingredients.map((item) => ({
      ...item,
      enters: item.enters === id ? '' : item.enters,
      eaten_at: item.eaten_at.filter((each) => each !== id),
    })),
    hazards: plan.hazards.map((hazard) => ({
      ...hazard,
      decisions: hazard.decisions.filter((decision) => decision.step !== id),
    })),
  }
}
