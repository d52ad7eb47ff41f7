import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { measureFor } from '../../shared/quantities'
import { likelyUnit, quantityFrom } from '../../shared/typed'
import { useUnits } from '../../shared/units'
import type { Setting } from './settings'

/** A number with its unit. What cannot be is said under the field and not taken over. */
export function NumberField({ setting, value, onChange, disabled }: { setting: Setting; value: number; onChange: (value: number) => void; disabled: boolean }) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const measure = measureFor(setting.kind, setting.show, choice)
  const scale = setting.size // the field's own unit, in the inside unit of its kind
  const [text, setText] = useState<string | null>(null)
  const typed = text ?? String(Number(measure.toShown(value * scale).toFixed(2)))
  const [least, most] = [setting.low * scale, setting.high * scale]
  const within = (inside: number) => inside >= least - 1e-9 && inside <= most + 1e-9
  const wrong = text !== null && !within(quantityFrom(text, setting.kind, measure))
  const unit = wrong ? likelyUnit(typed, setting.kind, least, most, measure) : null
  const bound = (inside: number) => Number(measure.toShown(inside).toFixed(2))
  function take(next: string) {
    setText(next)
    const inside = quantityFrom(next, setting.kind, measure)
    if (within(inside)) onChange(Number((inside / scale).toPrecision(12)))
  }
  const id = `field-${setting.field}-${setting.label}`
  return (
    <Form.Group controlId={id}>
      <Form.Label>{t(`fields.${setting.label}`)}</Form.Label>
      <div className="with-unit">
        <Form.Control
          inputMode="decimal"
          disabled={disabled}
          value={typed}
          isInvalid={wrong}
          onChange={(event) => take(event.target.value)}
          onBlur={() => !wrong && setText(null)}
        />
        <span>{measure.unit}</span>
      </div>
      {wrong && (
        <p className="hot small mb-0" role="alert">
          {t('fields.wrong', { low: bound(least), high: bound(most), unit: measure.unit })}
          {unit && <Button variant="link" size="sm" onClick={() => take(`${typed.trim()} ${unit}`)}>{t('fields.meant', { value: typed.trim(), unit })}</Button>}
        </p>
      )}
    </Form.Group>
  )
}
