import { useState } from 'react'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { useQuantities } from '../../shared/reference'
import { quantityFrom } from '../../shared/typed'
import { type Instrument, useCalibrate } from './api'

type Against = Schemas['Calibration']['against']

/** What an instrument is held against, what it showed, and what it shows after it was set. */
export function useChecking(item: Instrument) {
  const { t } = useTranslation()
  const calibrate = useCalibrate(item.id)
  const quantities = useQuantities()
  const main = item.quantities[0] ?? 'core'
  const [quantity, measure] = [quantities.info(main), quantities.measure(main)]
  const ways: Against[] =
    quantity?.kind === 'ph' ? ['buffers'] : quantity?.unit === '°C' ? ['ice', 'boiling', 'reference'] : ['reference']
  const [chosen, choose] = useState<Against | null>(null)
  const [reference, setReference] = useState('')
  const [found, setFound] = useState('')
  const [left, setLeft] = useState('')
  const [hint, setHint] = useState('')
  const against = chosen ?? ways[0] ?? 'reference'
  const needsReference = against === 'reference' || against === 'buffers'
  const number = (text: string) => quantityFrom(text, quantity?.kind ?? 'temperature', measure)

  function submit() {
    const values = [found, ...(left.trim() ? [left] : []), ...(needsReference ? [reference] : [])].map(number)
    if (values.some(Number.isNaN)) return setHint(t('household.numbers', { unit: measure.unit }))
    setHint('')
    calibrate.mutate(
      {
        against,
        reference: needsReference ? number(reference) : null,
        as_found: number(found),
        as_left: left.trim() ? number(left) : null,
        due_days: 30,
        note: '',
      },
      {
        onSuccess: () => {
          setFound('')
          setLeft('')
        },
      },
    )
  }

  return {
    calibrate,
    quantity,
    measure,
    ways,
    against,
    choose,
    needsReference,
    reference,
    setReference,
    found,
    setFound,
    left,
    setLeft,
    hint,
    submit,
  }
}

export type Checking = ReturnType<typeof useChecking>
