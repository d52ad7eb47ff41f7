import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import type { Setting } from './settings'

/** A number with its unit. What cannot be is said under the field and not taken over. */
export function NumberField({ setting, value, onChange, disabled }: { setting: Setting; value: number; onChange: (value: number) => void; disabled: boolean }) {
  const { t } = useTranslation()
  const { unit, toShown, toCelsius } = useUnits()
  const out = (inside: number) => (setting.temperature ? toShown(inside) : inside * setting.factor)
  const back = (typed: number) => (setting.temperature ? toCelsius(typed) : typed / setting.factor)
  const shown = String(Number(out(value).toFixed(2)))
  const [text, setText] = useState<string | null>(null)
  const typed = text ?? shown
  const parsed = /^[+-]?\d*[.,]?\d+$|^[+-]?\d+[.,]$/.test(typed.trim()) ? Number(typed.trim().replace(',', '.')) : NaN
  const [low, high] = setting.temperature ? [toShown(setting.low), toShown(setting.high)] : [setting.low, setting.high]
  const wrong = !(parsed >= low - 1e-9 && parsed <= high + 1e-9)
  const shownUnit = setting.temperature ? unit : setting.unit
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
          onChange={(event) => {
            const next = event.target.value
            setText(next)
            const number = /\d/.test(next) ? Number(next.trim().replace(',', '.')) : NaN
            if (number >= low - 1e-9 && number <= high + 1e-9) onChange(Number(back(number).toPrecision(12)))
          }}
          onBlur={() => !wrong && setText(null)}
        />
        <span>{shownUnit}</span>
      </div>
      {wrong && <p className="hot small mb-0" role="alert">{t('fields.wrong', { low: Number(low.toFixed(2)), high: Number(high.toFixed(2)), unit: shownUnit })}</p>}
    </Form.Group>
  )
}
