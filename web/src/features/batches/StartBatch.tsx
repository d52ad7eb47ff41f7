import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'

import { Problem } from '../../shared/client/client'
import { everyPlan } from '../../shared/client/paged'
import { momentFromClock } from '../../shared/clock'
import { FormDialog } from '../../shared/parts/FormDialog'
import { valueOf } from '../../shared/quantities'
import { useStartBatch } from './api'
import { LotsInput, PartsInput, type PartChoice, type Pieces, TodaysPieces, useFit, useOffer } from './StartDetails'
import { offered, remember } from '../../shared/usual'

export function StartBatchButton() {
  const { t } = useTranslation()
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button variant="outline-primary" onClick={() => setOpen(true)}>
        {t('batch.start')}
      </Button>
      {open && <StartBatchDialog onClose={() => setOpen(false)} />}
    </>
  )
}

function StartBatchDialog({ onClose }: { onClose: () => void }) {
  const { t } = useTranslation()
  const navigate = useNavigate()
  const plans = useQuery({ queryKey: ['plans'], queryFn: everyPlan })
  const signed = (plans.data ?? []).filter((plan) => plan.version).sort((a, b) => a.name.localeCompare(b.name))
  const start = useStartBatch()
  const [chosen, setChosen] = useState('')
  const [packs, setPacks] = useState('6')
  const [clock, setClock] = useState('')
  const [hint, setHint] = useState('')
  const [pieces, setPieces] = useState<Pieces>({ thickness_m: null, start_c: null })
  const [parts, setParts] = useState<PartChoice[]>([])
  const [lots, setLots] = useState<Record<string, string>>({})
  const planId =
    chosen ||
    offered(
      signed.map((plan) => ({ id: plan.plan_id })),
      'plan',
    )?.id ||
    ''

  const { data: offer, isLoading: asking } = useOffer(planId)
  const fit = useFit(planId, pieces).data

  const asked = start.error instanceof Problem && start.error.code === 'ask_first'

  function choose(plan: string) {
    setChosen(plan)
    setPieces({ thickness_m: null, start_c: null })
    setParts([])
    setLots({})
  }
  function go(confirmed: boolean) {
    const moment = clock ? momentFromClock(clock) : null
    if (clock && moment === null) return setHint(t('pad.clockWrong'))
    start.mutate(
      {
        plan_id: planId,
        packs: Number(packs),
        at: moment === null ? null : new Date(moment).toISOString(),
        confirmed,
        ...pieces,
        parts,
        lots: Object.entries(lots)
          .filter(([, lot]) => lot.trim())
          .map(([ingredient, lot]) => ({ ingredient, lot: lot.trim() })),
      },
      {
        onSuccess: (batch) => {
          remember('plan', planId)
          void navigate(`/batches/${batch.batch_id}`)
        },
      },
    )
  }
  return (
    <FormDialog
      title={t('batch.startTitle')}
      send={t('batch.start')}
      // not before the plan has said what it asks: the button would move away from under the finger
      disabled={!planId || asking || start.isPending || fit?.state === 'fails'}
      problem={start.error}
      onSend={() => go(false)}
      onClose={onClose}
      after={
        asked && (
          <Button variant="outline-primary" onClick={() => go(true)}>
            {t('batch.rightTime')}
          </Button>
        )
      }
    >
      {plans.data && signed.length === 0 && <p>{t('batch.noPlan')}</p>}
      <Form.Group controlId="start-plan">
        <Form.Label>{t('batch.plan')}</Form.Label>
        <Form.Select value={planId} onChange={(event) => choose(event.target.value)}>
          {signed.map((plan) => (
            <option key={plan.plan_id} value={plan.plan_id}>
              {plan.name} · {t('plans.signed', { version: plan.version?.version })}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div className="pad-facts">
        <Form.Group controlId="start-packs">
          <Form.Label>{t('batch.packs')}</Form.Label>
          <Form.Control
            type="number"
            min={1}
            max={500}
            required
            value={packs}
            onChange={(event) => setPacks(event.target.value)}
            aria-describedby="start-mass"
          />
          {offer?.portion_kg && Number(packs) > 0 && (
            <Form.Text id="start-mass">
              {t('batch.inAll', { mass: valueOf(offer.portion_kg * Number(packs), 'kg') })}
            </Form.Text>
          )}
        </Form.Group>
        <Form.Group controlId="start-at">
          <Form.Label>{t('batch.began')}</Form.Label>
          <Form.Control
            value={clock}
            placeholder={t('pad.now')}
            onChange={(event) => setClock(event.target.value)}
            aria-describedby="start-hint"
          />
        </Form.Group>
      </div>
      <p className="quiet small mb-0" id="start-hint">
        {t('batch.beganHint')}
      </p>
      {offer && (
        <>
          <TodaysPieces offer={offer} pieces={pieces} fit={fit} onChange={setPieces} />
          <PartsInput offer={offer} parts={parts} onChange={setParts} />
          <LotsInput offer={offer} lots={lots} onChange={setLots} />
        </>
      )}
      {hint && (
        <p className="hot mb-0" role="alert">
          {hint}
        </p>
      )}
    </FormDialog>
  )
}
