import '../../shared/text/laterWords'

import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link, useNavigate } from 'react-router'

import type { Schemas } from '../../shared/client/client'
import { whenOf } from '../../shared/clock'
import { FindBar, useFound } from '../../shared/parts/FindBar'
import { PageBar } from '../../shared/parts/PageBar'
import { FormDialog } from '../../shared/parts/FormDialog'
import { StateMark } from '../../shared/parts/StateMark'
import { Waiting } from '../../shared/parts/Waiting'
import { useRole, useSession } from '../../shared/session'
import { useReference } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { type Plan, useCreatePlan, usePlans } from './api'

type Summary = Schemas['PlanSummary']
type RuleSetId = NonNullable<Plan['rule_set']>

export function PlansPage() {
  const { t } = useTranslation()
  const plans = usePlans()
  const { isLead } = useRole()
  const [open, setOpen] = useState(false)
  const found = useFound(plans.data ?? [], (plan) => plan.name, stateOf)
  if (!plans.data) return <Waiting problem={plans.error} again={() => void plans.refetch()} />
  return (
    <>
      <PageBar title={t('plans.title')}>
        {isLead && <Button onClick={() => setOpen(true)}>{t('plans.create')}</Button>}
      </PageBar>
      <div className="page">
        {plans.data.length === 0 && <p className="sheet quiet">{t('plans.empty')}</p>}
        {plans.data.length > FEW && (
          <FindBar
            states={['signed', 'changed', 'draft']}
            nameOf={(state) => t(`find.${state}` as never)}
            label={t('find.plan')}
          />
        )}
        {plans.data.length > 0 && found.length === 0 && <p className="sheet quiet">{t('find.none')}</p>}
        {found.length > 0 && (
          <ul className="plain-list">
            {found.map((plan) => (
              <li key={plan.plan_id}>
                <Link to={`/plans/${plan.plan_id}`} className="list-line plan-line">
                  <StateMark state={markOf(plan)} bare size={22} />
                  <span>
                    <span className="strong d-block">{plan.name}</span>
                    <span className="quiet small">{plan.decides.join(', ')}</span>
                  </span>
                  <span>{plan.version ? t('plans.signed', { version: plan.version.version }) : t('plans.draft')}</span>
                  <span className={plan.damaged ? 'strong' : 'quiet'}>
                    {plan.damaged}
                    {!plan.damaged && plan.version && plan.changed_since_signed
                      ? t('plans.changed', { version: plan.version.version })
                      : ''}
                    {!plan.damaged &&
                      !plan.version &&
                      (plan.gaps ? t('plans.gaps', { count: plan.gaps }) : t('plans.ready'))}
                  </span>
                  <span>{plan.days >= 0.5 ? t('plans.keptDays', { count: Math.round(plan.days) }) : ''}</span>
                  <span className="quiet">
                    {plan.last_batch &&
                      t('plans.lastBatch', { code: plan.last_batch.code, when: whenOf(plan.last_batch.started_at) })}
                  </span>
                  <span className="quiet">{plan.rule_set.toUpperCase()}</span>
                  <span className="quiet">{t('plans.by', { by: plan.updated_by, when: whenOf(plan.updated_at) })}</span>
                </Link>
              </li>
            ))}
          </ul>
        )}
      </div>
      <p className="page caution">{t('caution')}</p>
      {open && <CreateDialog onClose={() => setOpen(false)} />}
    </>
  )
}

const FEW = 5 // more than these are looked through

function markOf(plan: Summary): string {
  if (plan.damaged) return 'trouble'
  return plan.version && !plan.changed_since_signed ? 'done' : 'due'
}

function stateOf(plan: { version: unknown; changed_since_signed: boolean }): string {
  return !plan.version ? 'draft' : plan.changed_since_signed ? 'changed' : 'signed'
}

type Template = Schemas['TemplateRead']

/** Templates as their families stand in the list, the first family being the first that is met. */
function byFamily(templates: readonly Template[]): [string, Template[]][] {
  const found = new Map<string, Template[]>()
  for (const each of templates) found.set(each.family, [...(found.get(each.family) ?? []), each])
  return [...found]
}

function CreateDialog({ onClose }: { onClose: () => void }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const navigate = useNavigate()
  const create = useCreatePlan()
  const reference = useReference()
  const session = useSession()
  const [name, setName] = useState('')
  const [template, setTemplate] = useState('bag')
  const own = usePlans()
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
