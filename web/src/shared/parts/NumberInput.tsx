import { tickStep } from 'd3-array'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../client/client'
import { measureFor, written } from '../quantities'
import { likelyUnit, quantityFrom } from '../typed'
import { useUnits } from '../units'

type FieldSpec = Schemas['FieldSpec']

interface Props {
  spec: FieldSpec
  label: string
  value: number | null
  onChange: (value: number | null) => void
  /** Where dragging starts from; no slider without it. */
  home?: number | undefined
  id: string
  disabled?: boolean
  /** The name above the field, as in a grid of fields, not beside it. */
  stacked?: boolean
}

/** A number in the person's unit, typed or dragged. What cannot be is said beside it and not sent. */
export function NumberInput({ spec, label, value: own, onChange: take_, home, id, disabled, stacked }: Props) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const measure = measureFor(spec.kind, spec.show, choice)
  // a field's own unit need not be the inside one: days are kept as days
  const size = spec.size ?? 1
  const value = own === null ? null : own * size
  const onChange = (inside: number | null) => take_(inside === null ? null : Number((inside / size).toPrecision(12)))
  const [text, setText] = useState<string | null>(null)
  const typed = text ?? (value === null ? '' : written(measure.toShown(value), measure.digits))
  const least = (spec.low ?? -Infinity) * size
  const most = (spec.high ?? Infinity) * size
  const [low, high] = [measure.toShown(least), measure.toShown(most)]
  const within = (inside: number) => inside >= least - 1e-9 && inside <= most + 1e-9
  const empty = typed.trim() === ''
  const wrong = empty ? !spec.optional : text !== null && !within(quantityFrom(text, spec.kind, measure))
  const unit = wrong ? likelyUnit(typed, spec.kind, least, most, measure) : null
  function take(next: string) {
    setText(next)
    if (next.trim() === '' && spec.optional) onChange(null)
    const inside = quantityFrom(next, spec.kind, measure)
    if (within(inside)) onChange(inside)
  }
  return (
    <Form.Group controlId={id} {...(stacked ? {} : { className: 'bench-field' })}>
      <Form.Label>{label}</Form.Label>
      <div className="with-unit">
        <Form.Control
          inputMode="decimal"
          disabled={disabled}
          value={typed}
          isInvalid={wrong}
          placeholder={spec.optional ? t('typed.notGiven') : ''}
          onChange={(event) => take(event.target.value)}
          onBlur={() => !wrong && setText(null)}
        />
        <span>{measure.unit}</span>
      </div>
      {home !== undefined && value !== null && (
        <Slider
          spec={spec}
          label={label}
          value={value}
          home={home * size}
          toShown={measure.toShown}
          unit={measure.unit}
          onChange={(next) => {
            setText(null)
            onChange(next)
          }}
        />
      )}
      {wrong && (
        <p className="hot small mb-0" role="alert">
          {t('typed.wrong', { low: written(low, 3), high: written(high, 3), unit: measure.unit })}
          {unit && (
            <Button variant="link" size="sm" onClick={() => take(`${typed.trim()} ${unit}`)}>
              {t('typed.meant', { value: typed.trim(), unit })}
            </Button>
          )}
        </p>
      )}
    </Form.Group>
  )
}

function Slider({
  spec,
  label,
  value,
  home,
  toShown,
  unit,
  onChange,
}: {
  spec: FieldSpec
  label: string
  value: number
  home: number
  toShown: (inside: number) => number
  unit: string
  onChange: (value: number) => void
}) {
  const { t } = useTranslation()
  const [low, high] = reach(spec, home)
  const step = spec.step ?? tickStep(low, high, 100)
  return (
    <input
      type="range"
      className="bench-slider no-print"
      min={Math.min(low, value)}
      max={Math.max(high, value)}
      step={step}
      value={value}
      aria-label={t('typed.drag', { name: label })}
      aria-valuetext={`${written(toShown(value), 2)} ${unit}`}
      onChange={(event) => onChange(Number(Number(event.target.value).toPrecision(12)))}
    />
  )
}

/** The span worth dragging over: around where the question began, within the field's own bounds. */
function reach(spec: FieldSpec, home: number): [number, number] {
  const size = spec.size ?? 1
  const least = (spec.low ?? -1e9) * size
  const most = (spec.high ?? 1e9) * size
  if (spec.kind === 'temperature') return [Math.max(least, home - 30), Math.min(most, home + 30)]
  if (home <= 0) return [least, Math.min(most, least + (most - least) / 10)]
  return [Math.max(least, home * 0.1), Math.min(most, home * 2.5)]
}
