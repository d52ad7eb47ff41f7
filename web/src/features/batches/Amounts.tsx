import { useQuery, keepPreviousData } from '@tanstack/react-query'
import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { answered, client, type Schemas } from '../../shared/client/client'
import { Fold } from '../../shared/parts/Fold'
import { NumberInput } from '../../shared/parts/NumberInput'
import { ProblemLine } from '../../shared/parts/ProblemLine'
import { massOf } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { Batch } from './api'

const STEPS = ['0.01', '0.1', '1', '5', '10', '50'] as const
type Step = (typeof STEPS)[number]
const KEPT = 'brinefrost.scale' // the step of the scale that stands here
const MASS = {
  name: 'kg', kind: 'mass', show: 'kg', low: 0, high: 20000, step: 0.05, optional: true, main: false, size: 1,
} as unknown as Schemas['FieldSpec'] // prettier-ignore

/** What to weigh: the plan's amounts for today's mass, or for what there is of the one thing that is scarce. */
export function Amounts({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const known = batch.plan.ingredients.filter((item) => item.amount_kg > 0)
  const [of, setOf] = useState('')
  const [kg, setKg] = useState<number | null>(null)
  const [step, setStep] = useState<Step>(() => STEPS.find((each) => each === localStorage.getItem(KEPT)) ?? '1')
  const asked = of ? { of, kg: kg ?? 0 } : { total_kg: kg ?? 0 }
  const amounts = useAmounts(batch.batch_id, { step_g: step, ...asked }, known.length > 0)
  if (known.length === 0) return null
  return (
    <section className="sheet">
      <Fold title={t('amounts.title')} count={known.length}>
        <div className="row-line">
          <Form.Select aria-label={t('amounts.of')} value={of} onChange={(event) => setOf(event.target.value)}>
            <option value="">{t('amounts.all')}</option>
            {known.map((item) => (
              <option key={item.name} value={item.name}>
                {words(item.name)}
              </option>
            ))}
          </Form.Select>
          <NumberInput stacked id="amounts-kg" spec={MASS} label={t('amounts.howMuch')} value={kg} onChange={setKg} />
        </div>
        <ProblemLine problem={amounts.error} />
        {amounts.data && !amounts.error && <WeighList amounts={amounts.data} />}
        <Form.Group controlId="amounts-step" className="mt-2">
          <Form.Label>{t('amounts.scale')}</Form.Label>
          <Form.Select
            value={step}
            onChange={(event) => {
              setStep(event.target.value as Step)
              localStorage.setItem(KEPT, event.target.value)
            }}
          >
            {STEPS.map((each) => (
              <option key={each} value={each}>
                {each} g
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      </Fold>
    </section>
  )
}

function WeighList({ amounts }: { amounts: Schemas['Amounts'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <>
      <ul className="plain-list weigh-list">
        {amounts.weighed.map((each) => (
          <li key={each.name}>
            <span>
              <span className="strong">{words(each.name)}</span>
              {each.step && (
                <span className="quiet small d-block">{t('plans.goesIn', { step: words(each.step) })}</span>
              )}
            </span>
            <span className="weigh-mass">{massOf(each.shown_kg)}</span>
            <span className={each.too_coarse ? 'hot small' : 'quiet small'}>
              {t(each.too_coarse ? 'amounts.tooCoarse' : 'amounts.within', { share: shareOf(each.error) })}
            </span>
          </li>
        ))}
      </ul>
      {amounts.unsaid.length > 0 && (
        <p className="quiet small mb-0">{t('amounts.unsaid', { names: amounts.unsaid.map(words).join(', ') })}</p>
      )}
    </>
  )
}

const shareOf = (share: number) => `${share >= 0.1 ? Math.round(share * 100) : Number((share * 100).toPrecision(2))} %`

interface Query {
  step_g: Step
  of?: string
  kg?: number
  total_kg?: number
}

function useAmounts(batchId: string, query: Query, enabled: boolean) {
  return useQuery({
    queryKey: ['batch', batchId, 'amounts', query],
    queryFn: () =>
      answered(client.GET('/api/v1/batches/{batch_id}/amounts', { params: { path: { batch_id: batchId }, query } })),
    placeholderData: keepPreviousData,
    enabled,
    retry: false,
  })
}
