import { useState } from 'react'
import { Dropdown } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { isCurrent } from '../../shared/standing'
import { useArchivePlan, useDeleteDraft, useReturnPlan } from './api'
import { ArchiveDialog } from './ArchiveDialog'
import type { Summary } from './planStates'

interface Props {
  plan: Summary
  mayWrite: boolean
  onCopy: () => void
  onCompare: () => void
}

/** What can be done with a plan from the list. Archiving and deleting can be taken back. */
export function PlanMenu({ plan, mayWrite, onCopy, onCompare }: Props) {
  const { t } = useTranslation()
  const [archiving, setArchiving] = useState(false)
  const archive = useArchivePlan(plan.plan_id)
  const remove = useDeleteDraft(plan.plan_id)
  const bringBack = useReturnPlan(plan.plan_id)
  const current = isCurrent(plan)
  return (
    <div className="plan-menu">
      <Dropdown align="end">
        <Dropdown.Toggle variant="link" aria-label={t('plans.more', { name: plan.name })}>
          <span aria-hidden="true">···</span>
        </Dropdown.Toggle>
        <Dropdown.Menu>
          <Dropdown.Item as="button" onClick={onCompare}>
            {t('plans.compareWith')}
          </Dropdown.Item>
          {plan.version && (
            <Dropdown.Item href={`/api/v1/plans/${plan.plan_id}/versions/${plan.version.version}/plan.pdf`} download>
              {t('plans.printVersion', { version: plan.version.version })}
            </Dropdown.Item>
          )}
          {mayWrite && (
            <Dropdown.Item as="button" onClick={onCopy}>
              {t('plans.copy')}
            </Dropdown.Item>
          )}
          {mayWrite && current && plan.version && (
            <Dropdown.Item as="button" onClick={() => setArchiving(true)}>
              {t('plans.archive')}
            </Dropdown.Item>
          )}
          {mayWrite && current && !plan.version && (
            <Dropdown.Item as="button" onClick={() => remove.mutate(null)}>
              {t('plans.deleteDraft')}
            </Dropdown.Item>
          )}
          {mayWrite && !current && (
            <Dropdown.Item as="button" onClick={() => bringBack.mutate(null)}>
              {t('plans.bringBack')}
            </Dropdown.Item>
          )}
        </Dropdown.Menu>
      </Dropdown>
      <ProblemLine problem={remove.error ?? bringBack.error} />
      {archiving && (
        <ArchiveDialog
          name={plan.name}
          problem={archive.error}
          waits={archive.isPending}
          onSend={(reason) => archive.mutate({ reason }, { onSuccess: () => setArchiving(false) })}
          onClose={() => setArchiving(false)}
        />
      )}
    </div>
  )
}
