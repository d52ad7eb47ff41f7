import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { lengthOf, nowMs, whenOf } from '../../shared/clock'
import type { PadTarget } from '../../shared/parts/usePad'
import { StateMark } from '../../shared/parts/StateMark'
import { useRole } from '../../shared/session'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import type { NextItem } from './api'
import type { Schemas } from '../../shared/client/client'

/** What to do now, soonest first; each one touch from its number pad. */
export function NextColumn({
  items,
  handover = null,
  onLog,
}: {
  items: readonly NextItem[]
  handover?: Schemas['HandoverView'] | null
  onLog: (target: PadTarget) => void
}) {
  const { t } = useTranslation()
  const count = (state: string) => items.filter((item) => item.state === state).length
  return (
    <aside className="next" aria-label={t('shift.next')}>
      <div className="row-line">
        <h2>{t('shift.next')}</h2>
        <span className="quiet push" role="status">
          {t('shift.counts', { late: count('late'), trouble: count('trouble'), due: count('due') })}
        </span>
      </div>
      {handover && <Handover said={handover} />}
      {items.length === 0 && <p className="quiet">{t('shift.nothingDue')}</p>}
      <ul className="next-items">
        {items.map((item) => (
          <li
            key={`${item.batch_id}${item.kind}${item.check?.id ?? item.title}`}
            className={item.state === 'trouble' ? 'next-item trouble' : 'next-item'}
          >
            <StateMark state={item.state === 'begin' || item.state === 'review' ? 'due' : item.state} bare size={22} />
            <NextWords item={item} />
            <NextButton item={item} onLog={onLog} />
          </li>
        ))}
      </ul>
    </aside>
  )
}

/** What was said at the last change of shift, and what was left then. */
function Handover({ said }: { said: Schemas['HandoverView'] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  return (
    <section className="handover" aria-label={t('menu.handOver')}>
      <p className="quiet mb-0">
        {t('shift.handover', { giver: said.giver, taker: said.taker, time: whenOf(said.at) })}
      </p>
      {said.note && <p className="strong mb-0">{said.note}</p>}
      {said.left.length > 0 && (
        <details>
          <summary className="quiet">{t('shift.left', { count: said.left.length })}</summary>
          <ul className="mb-0">
            {said.left.map((each) => (
              <li key={each}>{words(each)}</li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

function NextWords({ item }: { item: NextItem }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const lateS = item.due_at ? (nowMs() - Date.parse(item.due_at)) / 1000 : 0
  const when =
    item.state === 'late'
      ? t('shift.late', { time: lengthOf(lateS) })
      : item.due_at
        ? t('shift.due', { time: whenOf(item.due_at) })
        : ''
  return (
    <div className="next-words">
      <p className="strong">{words(item.title)}</p>
      <p className="quiet">
        {[item.code, when, item.state === 'trouble' ? words(item.detail) : ''].filter(Boolean).join(' · ')}
      </p>
    </div>
  )
}

function NextButton({ item, onLog }: { item: NextItem; onLog: (target: PadTarget) => void }) {
  const { t } = useTranslation()
  const { unitOf } = useQuantities()
  const { mayLog } = useRole()
  const check = item.check
  if (check && mayLog && item.step) {
    const target: PadTarget = {
      batchId: item.batch_id,
      batchCode: item.code,
      step: item.step,
      quantity: check.quantity,
      what: check.what,
      check: check.id,
      expected: [check.expected_low_c, check.expected_high_c],
    }
    return (
      <Button
        variant="outline-primary"
        className="to-pad"
        aria-label={[t('batch.log', { what: check.what }), unitOf(check.quantity)].filter(Boolean).join(', ')}
        onClick={() => onLog(target)}
      >
        {unitOf(check.quantity) || t('batch.look')}
      </Button>
    )
  }
  const label = item.kind === 'review' ? t('shift.review') : item.kind === 'begin' ? t('shift.begin') : t('shift.open')
  return (
    <Link
      className={item.state === 'trouble' ? 'btn btn-primary' : 'btn btn-outline-primary'}
      to={`/batches/${item.batch_id}`}
    >
      {label}
    </Link>
  )
}
