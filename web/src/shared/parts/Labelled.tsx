import { type ReactNode, useId } from 'react'
import { Form } from 'react-bootstrap'

/** A field with its name standing above it, so that it is still known once something is typed. */
export function Labelled({ label, children }: { label: string; children: ReactNode }) {
  const id = useId()
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      {children}
    </Form.Group>
  )
}
