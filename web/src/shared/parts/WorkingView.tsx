import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../client/client'
import { isTurned, valueOf, withUnit } from '../quantities'
import { localNumber } from '../text/i18n'
import { useUnits } from '../units'

type Working = Schemas['Working']

/** The shown working: formula, inputs with units, result, source, assumptions. */
export function WorkingView({ working }: { working: Working }) {
  const { t } = useTranslation()
  const { words, choice } = useUnits()
  const written = (value: number, unit: string) =>
    isTurned(unit) ? valueOf(value, unit, choice) : withUnit(tidy(value), unit)
  return (
    <div className="working">
      <p className="formula">{words(working.formula)}</p>
      <dl>
        {working.inputs.map((input) => (
          <div key={input.name}>
            <dt>{words(input.name)}</dt>
            <dd>{typeof input.value === 'number' ? written(input.value, input.unit) : input.value}</dd>
          </div>
        ))}
      </dl>
      {working.result && <p className="strong">{words(working.result)}</p>}
      {working.assumptions.length > 0 && <p className="quiet small">{working.assumptions.join('; ')}.</p>}
      {working.valid_range && <p className="quiet small">{words(working.valid_range)}</p>}
      <p className="quiet small">{t('batch.source', { citation: working.source.citation })}</p>
    </div>
  )
}

/** The same, folded away behind a button. */
export function WorkingFold({ working }: { working: Working }) {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button variant="link" className="fold" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? t('batch.hide') : t('batch.working')}
      </Button>
      {open && <WorkingView working={working} />}
    </>
  )
}

function tidy(value: number): string {
  if (value !== 0 && Math.abs(value) < 0.001) return localNumber(value.toExponential(2).replace('e-', ' × 10^-'))
  return localNumber(String(Number(value.toPrecision(6))))
}
