import { useState, type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { Labelled } from '../../shared/parts/Labelled'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { measureFor, written } from '../../shared/quantities'
import { useQuantities } from '../../shared/reference'
import { quantityFrom } from '../../shared/typed'
import { useUnits } from '../../shared/units'
import { useAddInstrument } from './api'

/** What can be added: a kind, and where one kind is several instruments, the quantity it reads. */
const KINDS = [
  ['probe', 'core'],
  ['logger', 'core'],
  ['unit', 'air'],
  ['meter', 'ph'],
  ['meter', 'salt'],
  ['meter', 'aw'],
  ['scale', 'mass'],
] as const

/** Another instrument: its name, what it is, how surely it reads. */
export function AddInstrument() {
  const { t } = useTranslation()
  const add = useAddInstrument()
  const { known, info } = useQuantities()
  const { choice } = useUnits()
  const [name, setName] = useState('')
  const [index, setIndex] = useState(0)
  const [typed, setTyped] = useState<string | null>(null)
  const [kind, main] = KINDS[index] ?? KINDS[0]
  const quantity = info(main)
  const unit = quantity?.unit ?? '°C'
  const doubt = unit === '°C' ? 'difference' : (quantity?.kind ?? 'number')
  const measure = measureFor(doubt, unit, choice)
  const uncertainty = typed ?? written(measure.toShown(quantity?.good_to ?? 0.5), 4)
  const inside = quantityFrom(uncertainty, doubt, measure)
  function submit(event: FormEvent) {
    event.preventDefault()
    const reads = known.filter((each) => each.kit.includes(kind) && each.unit === unit).map((each) => each.key)
    add.mutate({ name: name.trim(), kind, quantities: reads, uncertainty: inside }, { onSuccess: () => setName('') })
  }
  return (
    <Form onSubmit={submit} className="stack tight mt-3" aria-label={t('household.addInstrument')}>
      <h3 className="mb-0">{t('household.addInstrument')}</h3>
      <div className="pad-facts">
        <Labelled label={t('household.instrument')}>
          <Form.Control
            required
            minLength={2}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        <Labelled label={t('household.kind')}>
          <Form.Select
            value={index}
            onChange={(event) => {
              setIndex(Number(event.target.value))
              setTyped(null)
            }}
          >
            {KINDS.map(([each, reads], at) => (
              <option key={each + reads} value={at}>
                {t(`household.kinds.${each === 'meter' ? reads : each}`)}
              </option>
            ))}
          </Form.Select>
        </Labelled>
        <Labelled label={`${t('household.uncertainty')}, ${measure.unit}`}>
          <Form.Control
            inputMode="decimal"
            required
            isInvalid={!(inside > 0)}
            value={uncertainty}
            onChange={(event) => setTyped(event.target.value)}
          />
        </Labelled>
      </div>
      <ProblemLine problem={add.error} />
      <div>
        <Button type="submit" variant="outline-primary" disabled={add.isPending || !(inside > 0)}>
          {t('household.addInstrument')}
        </Button>
      </div>
    </Form>
  )
}
