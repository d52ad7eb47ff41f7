import { type FormEvent, type ReactNode, useId } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { ProblemLine } from './ProblemLine'

interface Props {
  title: string
  send: string
  disabled: boolean
  problem: unknown
  onSend: () => void
  onClose: () => void
  children: ReactNode
  /** What may be said to a problem, below it. */
  after?: ReactNode
}

/** A dialog that asks for a few things and sends them by one button, or by Enter. */
export function FormDialog({ title, send, disabled, problem, onSend, onClose, children, after }: Props) {
  const { t } = useTranslation()
  const id = useId()
  function submit(event: FormEvent) {
    event.preventDefault()
    onSend()
  }
  return (
    <Modal show onHide={onClose} centered aria-labelledby={id}>
      <Modal.Header closeButton closeLabel={t('sheet.close')}>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
      </Modal.Header>
      <Form onSubmit={submit}>
        <Modal.Body className="stack">
          {children}
          <ProblemLine problem={problem} />
          {after}
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={disabled}>
            {send}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  )
}
