import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { applies } from '../../shared/applies'
import type { Family, FieldSpec, Question, Row } from './api'
import { NumberInput } from '../../shared/parts/NumberInput'
import { RowsInput } from './RowsInput'
import { useNames } from './names'

interface Props {
  family: Family
  home: Question
  question: Question
  /** What changes; merged into the question as it stands by then. */
  onChange: (change: Question) => void
}

/** What is asked: the main things open, the rest one touch away. */
export function QuestionForm({ family, home, question, onChange }: Props) {
  const { t } = useTranslation()
  const shown = family.fields.filter((spec) => applies(spec.only, question))
  const main = shown.filter((spec) => spec.main)
  const rest = shown.filter((spec) => !spec.main)
  // a setting that the question already makes use of is not hidden
  const changed = rest.some(
    (spec) =>
      JSON.stringify(question[spec.name]) !== JSON.stringify(home[spec.name]) ||
      (spec.kind === 'rows' && rowsOf(question, spec).length > 0),
  )
  const [open, setOpen] = useState(changed)
  const set = (name: string, value: unknown) => onChange({ [name]: value })
  const field = (spec: FieldSpec) =>
    spec.kind === 'rows' ? (
      <RowsInput
        key={spec.name}
        spec={spec}
        family={family.key}
        rows={rowsOf(question, spec)}
        onChange={(value) => set(spec.name, value)}
      />
    ) : (
      <Field
        key={spec.name}
        spec={spec}
        family={family.key}
        value={question[spec.name]}
        home={home[spec.name]}
        onChange={(value) => set(spec.name, value)}
      />
    )
  return (
    <form className="bench-form" onSubmit={(event) => event.preventDefault()} aria-label={t('bench.question')}>
      {main.map(field)}
      {rest.length > 0 && (
        <Button variant="link" className="fold no-print" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? t('bench.fewer') : t('bench.more', { count: rest.length })}
        </Button>
      )}
      {open && rest.map(field)}
    </form>
  )
}

function rowsOf(question: Question, spec: FieldSpec): Row[] {
  return (question[spec.name] as Row[] | undefined) ?? []
}

function Field({
  spec,
  family,
  value,
  home,
  onChange,
}: {
  spec: FieldSpec
  family: string
  value: unknown
  home: unknown
  onChange: (value: unknown) => void
}) {
  const names = useNames(family)
  const label = names.field(spec.name)
  const id = `bench-${spec.name}`
  switch (spec.kind) {
    case 'choice':
      return (
        <Form.Group controlId={id} className="bench-field">
          <Form.Label>{label}</Form.Label>
          <Form.Select value={String(value)} onChange={(event) => onChange(event.target.value)}>
            {(spec.options ?? []).map((option) => (
              <option key={option} value={option}>
                {names.option(spec.name, option)}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      )
    case 'flag':
      return (
        <Form.Check
          id={id}
          className="bench-field"
          type="switch"
          label={label}
          checked={value === true}
          onChange={(event) => onChange(event.target.checked)}
        />
      )
    case 'day':
      return (
        <Form.Group controlId={id} className="bench-field">
          <Form.Label>{label}</Form.Label>
          <Form.Control
            type="date"
            value={String(value ?? '')}
            onChange={(event) => onChange(event.target.value || (spec.optional ? null : value))}
          />
        </Form.Group>
      )
    case 'words':
      return (
        <Form.Group controlId={id} className="bench-field">
          <Form.Label>{label}</Form.Label>
          <Form.Control
            as="textarea"
            rows={2}
            maxLength={600}
            value={String(value ?? '')}
            onChange={(event) => onChange(event.target.value)}
          />
        </Form.Group>
      )
    default:
      return (
        <NumberInput
          id={id}
          spec={spec}
          label={label}
          value={typeof value === 'number' ? value : null}
          home={spec.main && typeof home === 'number' ? home : undefined}
          onChange={onChange}
        />
      )
  }
}
