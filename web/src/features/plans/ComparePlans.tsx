import { useState } from 'react'
import { Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { useDifferences, usePlans } from './api'
import { ChangeTable } from './ChangeTable'
import type { Summary } from './planStates'

/** What a plan says otherwise than another that is chosen: its family's first. */
export function ComparePlans({ plan, onClose }: { plan: Summary; onClose: () => void }) {
  const { t } = useTranslation()
  const all = usePlans()
  const [other, setOther] = useState('')
  const differences = useDifferences(plan.plan_id, other)
  const others = (all.data ?? [])
    .filter((each) => each.plan_id !== plan.plan_id)
    .sort((a, b) => Number(b.family === plan.family) - Number(a.family === plan.family))
  const name = others.find((each) => each.plan_id === other)?.name ?? ''
  return (
    <Modal show onHide={onClose} size="lg" centered aria-labelledby="compare-title">
      <Modal.Header closeButton closeLabel={t('sheet.close')}>
        <Modal.Title as="h2" id="compare-title">
          {t('plans.compareTitle', { name: plan.name })}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="stack">
        <Form.Group controlId="compare-other">
          <Form.Label>{t('plans.compareWith')}</Form.Label>
          <Form.Select value={other} onChange={(event) => setOther(event.target.value)}>
            <option value="">{t('find.plan')}</option>
            {others.map((each) => (
              <option key={each.plan_id} value={each.plan_id}>
                {each.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <ProblemLine problem={differences.error} />
        {differences.data?.length === 0 && <p className="quiet mb-0">{t('plans.sameText')}</p>}
        {Boolean(differences.data?.length) && (
          <ChangeTable changes={differences.data ?? []} before={name} after={plan.name} />
        )}
      </Modal.Body>
    </Modal>
  )
}
