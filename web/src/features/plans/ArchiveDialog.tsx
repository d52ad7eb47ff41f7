import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { FormDialog } from '../../shared/parts/FormDialog'

interface Props {
  name: string
  problem: unknown
  waits: boolean
  onSend: (reason: string) => void
  onClose: () => void
}

/** Archiving says what it does before it does it. */
export function ArchiveDialog({ name, problem, waits, onSend, onClose }: Props) {
  const { t } = useTranslation()
  const [reason, setReason] = useState('')
  return (
    <FormDialog
      title={t('plans.archiveTitle', { name })}
      send={t('plans.archive')}
      disabled={waits}
      problem={problem}
      onSend={() => onSend(reason)}
      onClose={onClose}
    >
      <p className="mb-0">{t('plans.archiveAbout')}</p>
      <Form.Group controlId="archive-reason">
        <Form.Label>{t('plans.archiveWhy')}</Form.Label>
        <Form.Control maxLength={600} value={reason} onChange={(event) => setReason(event.target.value)} />
      </Form.Group>
    </FormDialog>
  )
}
