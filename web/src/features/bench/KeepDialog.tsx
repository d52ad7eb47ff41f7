import { useState, type FormEvent } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from '../../shared/parts/ProblemLine'
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
  function submit(event: FormEvent) {
    event.preventDefault()
    keep.mutate({ family, name, question }, { onSuccess: onClose })
  }
  return (
    <Modal show onHide={onClose} centered aria-labelledby="keep-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="keep-title">
          {t('bench.keepTitle')}
        </Modal.Title>
      </Modal.Header>
      <Form onSubmit={submit}>
        <Modal.Body className="stack">
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
          <ProblemLine problem={keep.error} />
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={keep.isPending || !name.trim()}>
            {t('bench.keep')}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  )
}
