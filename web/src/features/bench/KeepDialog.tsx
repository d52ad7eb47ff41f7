import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { FormDialog } from '../../shared/parts/FormDialog'
import { type Question, useKeep } from './api'

/** Keep a question under a name, with the answer it has now. */
export function KeepDialog({
  family,
  suggestion,
  question,
  onClose,
}: {
  family: string
  suggestion: string
  question: Question
  onClose: () => void
}) {
  const { t } = useTranslation()
  const [name, setName] = useState(suggestion)
  const keep = useKeep()
  function submit() {
    keep.mutate({ family, name, question }, { onSuccess: onClose })
  }
  return (
    <FormDialog
      title={t('bench.keepTitle')}
      send={t('bench.keep')}
      disabled={keep.isPending || !name.trim()}
      problem={keep.error}
      onSend={submit}
      onClose={onClose}
    >
      <Form.Group controlId="keep-name">
        <Form.Label>{t('bench.keepName')}</Form.Label>
        <Form.Control
          required
          maxLength={120}
          autoFocus
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Form.Group>
    </FormDialog>
  )
}
