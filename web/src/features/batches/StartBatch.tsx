import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { everyPlan } from '../../shared/client/paged'
import { FormDialog } from '../../shared/parts/FormDialog'
import { valueOf } from '../../shared/quantities'
import { isCurrent } from '../../shared/standing'
import { PlanChoice } from './PlanChoice'
import { LotsInput, PartsInput, TodaysPieces } from './StartDetails'
import { type Starting, useStarting } from './useStarting'
import { Hint } from '../../shared/parts/Hint'

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
  const plans = useQuery({ queryKey: ['plans'], queryFn: everyPlan })
  const signed = (plans.data ?? []).filter((plan) => plan.version && isCurrent(plan))
  const starting = useStarting(signed)
  const { offer, fit, hint } = starting
  const rightTime = (
    <Button variant="outline-primary" onClick={() => starting.go(true)}>
      {t('batch.rightTime')}
    </Button>
  )
  return (
    <FormDialog
      title={t('batch.startTitle')}
      send={t('batch.start')}
      disabled={starting.waits}
      problem={starting.problem}
      onSend={() => starting.go(false)}
      onClose={onClose}
      after={starting.asked && rightTime}
    >
      {plans.data && signed.length === 0 && <p>{t('batch.noPlan')}</p>}
      <PlanChoice signed={signed} starting={starting} />
      <HowMany starting={starting} />
      {offer && (
        <>
          <TodaysPieces offer={offer} pieces={starting.pieces} fit={fit} onChange={starting.setPieces} />
          <PartsInput offer={offer} parts={starting.parts} onChange={starting.setParts} />
          <LotsInput offer={offer} lots={starting.lots} onChange={starting.setLots} />
        </>
      )}
      <Hint text={hint} />
    </FormDialog>
  )
}

/** How many pieces, what they come to, and when it began. */
function HowMany({ starting }: { starting: Starting }) {
  const { t } = useTranslation()
  const { offer, packs, clock } = starting
  return (
    <>
      <div className="pad-facts">
        <Form.Group controlId="start-packs">
          <Form.Label>{t('batch.packs')}</Form.Label>
          <Form.Control
            type="number"
            min={1}
            max={500}
            required
            value={packs}
            onChange={(event) => starting.setPacks(event.target.value)}
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
            onChange={(event) => starting.setClock(event.target.value)}
            aria-describedby="start-hint"
          />
        </Form.Group>
      </div>
      <p className="quiet small mb-0" id="start-hint">
        {t('batch.beganHint')}
      </p>
    </>
  )
}
