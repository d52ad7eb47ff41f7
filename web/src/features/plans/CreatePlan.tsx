import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import type { Schemas } from '../../shared/client/client'
import { FormDialog } from '../../shared/parts/FormDialog'
import { useReference } from '../../shared/reference'
import { useSession } from '../../shared/session'
import { useUnits } from '../../shared/units'
import { type Plan, useCreatePlan, usePlans } from './api'

type RuleSetId = NonNullable<Plan['rule_set']>
type Template = Schemas['TemplateRead']

/** Templates as their families stand in the list, the first family being the first that is met. */
function byFamily(templates: readonly Template[]): [string, Template[]][] {
  const found = new Map<string, Template[]>()
  for (const each of templates) found.set(each.family, [...(found.get(each.family) ?? []), each])
  return [...found]
}

/** A new plan: from a template, or as another says; `copyOf` is already chosen. */
export function CreatePlan({ copyOf, onClose }: { copyOf?: string; onClose: () => void }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const navigate = useNavigate()
  const create = useCreatePlan()
  const reference = useReference()
  const session = useSession()
  const own = usePlans()
  const [name, setName] = useState('')
  const [template, setTemplate] = useState(copyOf ?? 'bag')
  const copied = own.data?.find((plan) => plan.plan_id === template)
  const chosen = reference.data?.templates.find((each) => each.key === template)
  const [rules, setRules] = useState<RuleSetId>((session.data?.rule_set as RuleSetId | undefined) ?? 'us')
  function submit() {
    create.mutate(
      copied
        ? { name, rule_set: copied.rule_set as RuleSetId, template: 'bag', copy_of: template }
        : { name, rule_set: rules, template },
      { onSuccess: (plan) => void navigate(`/plans/${plan.plan_id}?at=dish`) },
    )
  }
  return (
    <FormDialog
      title={t('plans.create')}
      send={t('plans.create')}
      disabled={create.isPending || reference.isLoading}
      problem={create.error}
      onSend={submit}
      onClose={onClose}
    >
      <Form.Group controlId="plan-name">
        <Form.Label>{t('plans.name')}</Form.Label>
        <Form.Control
          required
          maxLength={120}
          autoFocus
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Form.Group>
      <Form.Group controlId="plan-template">
        <Form.Label>{t('plans.template')}</Form.Label>
        <Form.Select value={template} onChange={(event) => setTemplate(event.target.value)}>
          {byFamily(reference.data?.templates ?? []).map(([family, templates]) => (
            <optgroup key={family} label={family}>
              {templates.map((each) => (
                <option key={each.key} value={each.key}>
                  {each.name}
                </option>
              ))}
            </optgroup>
          ))}
          {Boolean(own.data?.length) && (
            <optgroup label={t('plans.ownPlans')}>
              {own.data?.map((plan) => (
                <option key={plan.plan_id} value={plan.plan_id}>
                  {plan.name}
                </option>
              ))}
            </optgroup>
          )}
        </Form.Select>
        <p className="quiet small mb-0 mt-1">{copied ? t('plans.copyAbout') : chosen?.about}</p>
      </Form.Group>
      <Form.Group controlId="plan-rules" hidden={Boolean(copied)}>
        <Form.Label>{t('plans.rules')}</Form.Label>
        <Form.Select value={rules} onChange={(event) => setRules(event.target.value as RuleSetId)}>
          {reference.data?.rule_sets.map((each) => (
            <option key={each.id} value={each.id}>
              {words(each.name)}: {each.edition}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    </FormDialog>
  )
}
