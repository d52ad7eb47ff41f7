import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { isoDayOf, nowMs } from '../../shared/clock'
import type { FieldSpec, Row } from './api'
import { NumberInput } from './NumberInput'
import { useNames } from './names'

interface Props {
  spec: FieldSpec
  family: string
  rows: Row[]
  onChange: (rows: Row[]) => void
}

/** Readings, steps or stages: a row each. */
export function RowsInput({ spec, family, rows, onChange }: Props) {
  const { t } = useTranslation()
  const names = useNames(family)
  const columns = spec.columns ?? []
  // a row taken out moves the others up: what was half typed must not move into another row
  const [removed, setRemoved] = useState(0)
  const remove = (index: number) => {
    setRemoved(removed + 1)
    onChange(rows.filter((_, i) => i !== index))
  }
  const set = (index: number, name: string, value: unknown) => onChange(rows.map((row, i) => (i === index ? { ...row, [name]: value } : row)))
  return (
    <fieldset className="bench-rows">
      <legend className="form-label">{names.field(spec.name)}</legend>
      {rows.map((row, index) => (
        <div className="bench-row" key={`${removed}-${index}`}>
          <span className="quiet row-number">{index + 1}</span>
          {columns.map((column) => <Cell key={column.name} column={column} family={family} id={`${spec.name}-${index}-${column.name}`} value={row[column.name]} onChange={(value) => set(index, column.name, value)} />)}
          <Button variant="link" className="row-remove no-print" aria-label={t('bench.removeRow', { number: index + 1 })} onClick={() => remove(index)}>×</Button>
        </div>
      ))}
      <Button variant="link" className="no-print" onClick={() => onChange([...rows, nextRow(columns, rows)])}>{t('bench.addRow')}</Button>
    </fieldset>
  )
}

function Cell({ column, family, id, value, onChange }: { column: FieldSpec; family: string; id: string; value: unknown; onChange: (value: unknown) => void }) {
  const names = useNames(family)
  const label = names.field(column.name)
  if (column.kind === 'choice') {
    return (
      <Form.Group controlId={id}>
        <Form.Label>{label}</Form.Label>
        <Form.Select value={String(value ?? '')} onChange={(event) => onChange(event.target.value)}>
          {(column.options ?? []).map((option) => <option key={option} value={option}>{names.option(column.name, option)}</option>)}
        </Form.Select>
      </Form.Group>
    )
  }
  if (column.kind === 'day') {
    return (
      <Form.Group controlId={id}>
        <Form.Label>{label}</Form.Label>
        <Form.Control type="date" value={String(value ?? '')} onChange={(event) => onChange(event.target.value || null)} />
      </Form.Group>
    )
  }
  return <NumberInput id={id} spec={column} label={label} value={typeof value === 'number' ? value : null} onChange={onChange} />
}

/** A new row like the last one; times go on by the last spacing. */
function nextRow(columns: readonly FieldSpec[], rows: Row[]): Row {
  const last = rows.at(-1)
  const before = rows.at(-2)
  return Object.fromEntries(
    columns.map((column) => {
      const value = last?.[column.name] ?? firstOf(column)
      const running = column.name === 'time_s' || column.name === 'day'
      if (running && typeof value === 'number') {
        const spacing = value - Number(before?.[column.name] ?? 0)
        return [column.name, last ? value + (spacing > 0 ? spacing : 1) : value]
      }
      return [column.name, value]
    }),
  )
}

function firstOf(column: FieldSpec): unknown {
  if (column.optional) return null
  if (column.kind === 'choice') return column.options?.[0] ?? ''
  if (column.kind === 'day') return isoDayOf(nowMs())
  return column.fallback ?? column.low ?? 0
}
