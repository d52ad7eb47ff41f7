import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { nowMs, whenOf } from '../../shared/clock'
import type { PadTarget } from '../../shared/parts/NumberPad'
import { StateMark } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'
import type { Batch, Check } from './api'

const AHEAD_MS = 36 * 3600 * 1000
const MOST_AHEAD = 6

/** The schedule of checks with clock times. */
export function CheckList({ batch, onLog }: { batch: Batch; onLog: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const { temp } = useUnits()
  const near = batch.checks.filter((check) => Date.parse(check.due_at) < nowMs() + AHEAD_MS && Date.parse(check.due_at) > nowMs() - AHEAD_MS)
  const taken = (check: Check) => check.state === 'done' || check.state === 'missed'
  // what is still to do comes first; what is done follows, the latest on top
  const pool = near.length ? near : batch.checks.slice(-MOST_AHEAD * 2)
  const shown = [...pool.filter((check) => !taken(check)).slice(0, MOST_AHEAD), ...pool.filter(taken).reverse()]
  const readings = new Map(batch.readings.map((reading) => [reading.reading, reading]))
  return (
    <section className="sheet">
      <h2>{t('batch.checks')}</h2>
      <ul className="checks">
        {shown.map((check) => {
          const reading = check.reading ? readings.get(check.reading) : undefined
          return (
            <li key={check.id}>
              <StateMark state={check.state} bare size={20} />
              <div>
                <p className="strong">{check.what}</p>
                <p className="quiet">
                  {check.step_name} · {check.planned ? t('batch.planned', { time: whenOf(check.due_at) }) : t('batch.due', { time: whenOf(check.due_at) })}
                  {check.state === 'late' || check.state === 'missed' ? ` · ${t(`state.${check.state}`)}` : ''}
                </p>
              </div>
              {reading ? <span className="strong">{temp(reading.value)}</span> : <PadButton check={check} batch={batch} onLog={onLog} />}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function PadButton({ check, batch, onLog }: { check: Check; batch: Batch; onLog: ((target: PadTarget) => void) | undefined }) {
  const { t } = useTranslation()
  const { unit } = useUnits()
  if (!onLog || check.planned || check.state === 'missed') return null
  const target: PadTarget = {
    batchId: batch.batch_id,
    batchCode: batch.code,
    step: check.step,
    quantity: check.quantity,
    what: check.what,
    check: check.id,
    expected: [check.expected_low_c, check.expected_high_c],
  }
  return (
    <Button variant={check.state === 'upcoming' ? 'outline-primary' : 'primary'} className="to-pad" aria-label={`${t('batch.log', { what: check.what })}, ${unit}`} onClick={() => onLog(target)}>
      {unit}
    </Button>
  )
}
