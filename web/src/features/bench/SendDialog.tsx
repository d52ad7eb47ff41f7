import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import { answered, client, keyed, Problem, type Schemas } from '../../shared/client/client'
import { everyPlan } from '../../shared/client/paged'
import { useWrite } from '../../shared/client/useWrite'
import { FormDialog } from '../../shared/parts/FormDialog'
import type { Question } from './api'
import { hasBath, sendable, takesBath, withBath } from './sending'

/**
 * Take a question's bath over into a plan's draft: thickness, start, bath and time. The plan's proof follows by
 * itself.
 */
export function SendDialog({ question, onClose }: { question: Question; onClose: () => void }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const plans = useQuery({ queryKey: ['plans'], queryFn: everyPlan })
  const [chosen, setChosen] = useState('')
  const planId = chosen || plans.data?.[0]?.plan_id || ''
  const send = useWrite(
    async (id: string, key) => {
      const path = { plan_id: id }
      const plan: Schemas['PlanView'] = await answered(client.GET('/api/v1/plans/{plan_id}', { params: { path } }))
      if (!hasBath(plan.document)) throw new Problem(409, 'no_bath', t('bench.sendNot.plan'))
      const body = { revision: plan.revision, document: withBath(plan.document, question) }
      return answered(client.PUT('/api/v1/plans/{plan_id}', { params: { path, header: keyed(key) }, body }))
    },
    ['plans', 'plan', 'proof'],
  )
  function submit() {
    send.mutate(planId, {
      onSuccess: (sent) => {
        const step = sent.document.steps.find(takesBath)
        queries.removeQueries({ queryKey: ['plan', planId] })
        void navigate(`/plans/${planId}?at=${step?.id ?? ''}:card`)
      },
    })
  }
  const refused = sendable(question)
  return (
    <FormDialog
      title={t('bench.sendTitle')}
      send={t('bench.sendGo')}
      disabled={send.isPending || !planId || refused !== null}
      problem={send.error ?? plans.error}
      onSend={submit}
      onClose={onClose}
    >
      {refused ? (
        <p className="mb-0">{t(`bench.sendNot.${refused}`)}</p>
      ) : (
        <p className="mb-0">{t('bench.sendWhat')}</p>
      )}
      {!refused && plans.data?.length === 0 && <p className="quiet mb-0">{t('plans.empty')}</p>}
      {!refused && (plans.data?.length ?? 0) > 0 && (
        <Form.Group controlId="send-plan">
          <Form.Label>{t('batch.plan')}</Form.Label>
          <Form.Select value={planId} onChange={(event) => setChosen(event.target.value)}>
            {plans.data?.map((plan) => (
              <option key={plan.plan_id} value={plan.plan_id}>
                {plan.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )}
    </FormDialog>
  )
}
