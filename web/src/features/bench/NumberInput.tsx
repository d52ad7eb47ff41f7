import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { measureFor, written } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { FieldSpec } from './api'

const NUMBER = /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/

interface Props {
  spec: FieldSpec
  label: string
  value: number | null
  onChange: (value: number | null) => void
  /** Where dragging starts from; no slider without it. */
  home?: number | undefined
  id: string
}

/** A number in the person's unit, typed or dragged. What cannot be is said beside it and not sent. */
export function NumberInput({ spec, label, value, onChange, home, id }: Props) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const measure = measureFor(spec.kind, spec.show, choice)
  const [text, setText] = useState<string | null>(null)
  const typed = text ?? (value === null ? '' : written(measure.toShown(value), measure.digits))
  const low = spec.low === null || spec.low === undefined ? -Infinity : measure.toShown(spec.low)
  const high = spec.high === null || spec.high === undefined ? Infinity : measure.toShown(spec.high)
  const number = NUMBER.test(typed.trim()) ? Number(typed.trim().replace(',', '.')) : NaN
  const empty = typed.trim() === ''
  const wrong = empty ? !spec.optional : !(number >= low - 1e-9 && number <= high + 1e-9)
  function take(next: string) {
    setText(next)
    if (next.trim() === '' && spec.optional) onChange(null)
    const parsed = NUMBER.test(next.trim()) ? Number(next.trim().replace(',', '.')) : NaN
    if (parsed >= low - 1e-9 && parsed <= high + 1e-9) onChange(Number(measure.toInside(parsed).toPrecision(12)))
  }
  return (
    <Form.Group controlId={id} className="bench-field">
      <Form.Label>{label}</Form.Label>
      <div className="with-unit">
        <Form.Control inputMode="decimal" value={typed} isInvalid={wrong} placeholder={spec.optional ? t('bench.notGiven') : ''} onChange={(event) => take(event.target.value)} onBlur={() => !wrong && setText(null)} />
        <span>{measure.unit}</span>
      </div>
      {home !== undefined && value !== null && <Slider spec={spec} label={label} value={value} home={home} toShown={measure.toShown} unit={measure.unit} onChange={(next) => { setText(null); onChange(next) }} />}
      {wrong && <p className="hot small mb-0" role="alert">{t('fields.wrong', { low: written(low, 3), high: written(high, 3), unit: measure.unit })}</p>}
    </Form.Group>
  )
}

function Slider({ spec, label, value, home, toShown, unit, onChange }: { spec: FieldSpec; label: string; value: number; home: number; toShown: (inside: number) => number; unit: string; onChange: (value: number) => void }) {
  const { t } = useTranslation()
  const [low, high] = reach(spec, home)
  const step = spec.step ?? niceStep(high - low)
  return (
    <input
      type="range"
      className="bench-slider no-print"
      min={Math.min(low, value)}
      max={Math.max(high, value)}
      step={step}
      value={value}
      aria-label={t('bench.drag', { name: label })}
      aria-valuetext={`${written(toShown(value), 2)} ${unit}`}
      onChange={(event) => onChange(Number(Number(event.target.value).toPrecision(12)))}
    />
  )
}

/** The span worth dragging over: around where the question began, within the field's own bounds. */
function reach(spec: FieldSpec, home: number): [number, number] {
  const least = spec.low ?? -1e9
  const most = spec.high ?? 1e9
  if (spec.kind === 'temperature') return [Math.max(least, home - 30), Math.min(most, home + 30)]
  if (home <= 0) return [least, Math.min(most, least + (most - least) / 10)]
  return [Math.max(least, home * 0.1), Math.min(most, home * 2.5)]
}

function niceStep(span: number): number {
  const power = 10 ** Math.floor(Math.log10(span / 100))
  return power || 0.01
}
