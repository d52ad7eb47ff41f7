import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { isoDayOf, nowMs } from '../../shared/clock'
import type { FieldSpec, Row } from './api'
import { FromFile } from './FromFile'
import { NumberInput } from '../../shared/parts/NumberInput'
import { useNames } from './names'

interface Props {
  spec: FieldSpec
  family: string
  rows: Row[]
  onChange: (rows: Row[]) => void
}

const MOST_SHOWN = 12
const ENDS_SHOWN = 3

/** Readings, steps or stages: a row each; of many, the first and the last until all are asked for. */
export function RowsInput({ spec, family, rows, onChange }: Props) {
  const { t } = useTranslation()
  const names = useNames(family)
  const columns = spec.columns ?? []
  // rows that move or are replaced begin anew: what was half typed must not end up in another row
  const [turn, setTurn] = useState(0)
  const [all, setAll] = useState(false)
  const folded = !all && rows.length > MOST_SHOWN
  const replace = (next: Row[]) => {
    setTurn(turn + 1)
    onChange(next)
  }
  const remove = (index: number) => replace(rows.filter((_, i) => i !== index))
  const set = (index: number, name: string, value: unknown) =>
    onChange(rows.map((row, i) => (i === index ? { ...row, [name]: value } : row)))
  return (
    <fieldset className="bench-rows">
      <legend className="form-label">{names.field(spec.name)}</legend>
      {rows.map((row, index) =>
        folded && index >= ENDS_SHOWN && index < rows.length - ENDS_SHOWN ? (
          index === ENDS_SHOWN && (
            <Button
              key="between"
              variant="link"
              className="no-print"
              aria-expanded={false}
              onClick={() => setAll(true)}
            >
              {t('bench.allRows', { count: rows.length })}
            </Button>
          )
        ) : (
          <div className="bench-row" key={`${turn}-${index}`}>
            <span className="quiet row-number">{index + 1}</span>
            {columns.map((column) => (
              <Cell
                key={column.name}
                column={column}
                family={family}
                id={`${spec.name}-${index}-${column.name}`}
                value={row[column.name]}
                onChange={(value) => set(index, column.name, value)}
              />
            ))}
            <Button
              variant="link"
              className="row-remove no-print"
              aria-label={t('bench.removeRow', { number: index + 1 })}
              onClick={() => remove(index)}
            >
              ×
            </Button>
          </div>
        ),
      )}
      {rows.length > MOST_SHOWN && all && (
        <Button variant="link" className="no-print" aria-expanded onClick={() => setAll(false)}>
          {t('bench.fewRows')}
        </Button>
      )}
      <div className="row-tools">
        <Button variant="link" className="no-print" onClick={() => onChange([...rows, nextRow(columns, rows)])}>
          {t('bench.addRow')}
        </Button>
        {spec.file && <FromFile family={family} spec={spec} rows={rows} onChange={replace} />}
      </div>
    </fieldset>
  )
}

function Cell({
  column,
  family,
  id,
  value,
  onChange,
}: {
  column: FieldSpec
  family: string
  id: string
  value: unknown
  onChange: (value: unknown) => void
}) {
  const names = useNames(family)
  const label = names.field(column.name)
  if (column.kind === 'choice') {
    return (
      <Form.Group controlId={id}>
        <Form.Label>{label}</Form.Label>
        <Form.Select value={String(value ?? '')} onChange={(event) => onChange(event.target.value)}>
          {(column.options ?? []).map((option) => (
            <option key={option} value={option}>
              {names.option(column.name, option)}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
    )
  }
  if (column.kind === 'day') {
    return (
      <Form.Group controlId={id}>
        <Form.Label>{label}</Form.Label>
        <Form.Control
          type="date"
          value={String(value ?? '')}
          onChange={(event) => onChange(event.target.value || null)}
        />
      </Form.Group>
    )
  }
  return (
    <NumberInput
      id={id}
      spec={column}
      label={label}
      value={typeof value === 'number' ? value : null}
      onChange={onChange}
    />
  )
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
