import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { lengthOf, nowMs, whenOf } from '../../shared/clock'
import { Fold } from '../../shared/parts/Fold'
import type { PadTarget } from '../../shared/parts/usePad'
import { StateMark } from '../../shared/parts/StateMark'
import { useRole } from '../../shared/session'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import type { NextItem } from './api'
import type { Schemas } from '../../shared/client/client'

const COUNTED = ['late', 'trouble', 'due'] as const
const MOST_SHOWN = 4 // what presses stands open, all of it; of what is ahead so much that there are four
const MOST_AGAIN = 2 // times ahead that are told: the first is what somebody plans by

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
  const now = once(items.filter((item) => !isOffice(item)))
  const pressing = now.filter(({ item }) => item.state !== 'upcoming').length
  const shown = Math.max(pressing, MOST_SHOWN)
  const count = (state: string) => items.filter((item) => item.state === state).length
  return (
    <aside className="next" aria-label={t('shift.next')}>
      <div className="row-line">
        <h2>{t('shift.next')}</h2>
        <span className="quiet push" role="status">
          {COUNTED.filter((state) => count(state) > 0)
            .map((state) => t(`shift.counted.${state}`, { count: count(state) }))
            .join(' · ')}
        </span>
      </div>
      {handover && <Handover said={handover} />}
      {items.length === 0 && <p className="quiet">{t('shift.nothingDue')}</p>}
      <NextItems items={now.slice(0, shown)} onLog={onLog} />
      {now.length > shown && (
        <Fold title={t('shift.later')} count={now.length - shown}>
          <NextItems items={now.slice(shown)} onLog={onLog} />
        </Fold>
      )}
      {items.some(isOffice) && (
        <>
          <h3 className="next-part">{t('shift.dates')}</h3>
          <NextItems items={once(items.filter(isOffice))} onLog={onLog} />
        </>
      )}
    </aside>
  )
}

/** Use-by dates that are still to come and countersignatures wait for a quiet minute: not among what a probe reads. */
function isOffice(item: NextItem): boolean {
  return item.kind === 'review' || (item.kind === 'use' && item.state !== 'late')
}

interface Entry {
  item: NextItem
  later: string[]
}

/** The same check of a batch again and again stands once, with when it comes again. */
function once(items: readonly NextItem[]): Entry[] {
  const found: Entry[] = []
  const first = new Map<string, string[]>()
  for (const item of items) {
    const same = `${item.batch_id} ${item.step} ${item.check?.monitoring}`
    const later = item.state === 'upcoming' && item.check ? first.get(same) : undefined
    if (later) {
      later.push(item.due_at ?? '')
      continue
    }
    found.push({ item, later: [] })
    if (item.check) first.set(same, found.at(-1)?.later ?? [])
  }
  return found
}

function NextItems({ items, onLog }: { items: readonly Entry[]; onLog: (target: PadTarget) => void }) {
  return (
    <ul className="next-items">
      {items.map(({ item, later }) => (
        <li
          key={`${item.batch_id}${item.kind}${item.check?.id ?? item.title}`}
          className={item.state === 'trouble' ? 'next-item trouble' : 'next-item'}
        >
          <StateMark state={item.state === 'begin' || item.state === 'review' ? 'due' : item.state} bare size={22} />
          <NextWords item={item} later={later} />
          <NextButton item={item} onLog={onLog} />
        </li>
      ))}
    </ul>
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

function NextWords({ item, later }: { item: NextItem; later: readonly string[] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const lateS = item.due_at ? (nowMs() - Date.parse(item.due_at)) / 1000 : 0
  const when =
    item.state === 'late'
      ? t('shift.late', { time: lengthOf(lateS) })
      : item.due_at
        ? t('shift.due', { time: whenOf(item.due_at) })
        : ''
  const again = later.length ? t('shift.again', { times: later.slice(0, MOST_AGAIN).map(whenOf).join(', ') }) : ''
  return (
    <div className="next-words">
      <p className="strong">{words(item.title)}</p>
      <p className="quiet">
        {[item.code, when + again, item.state === 'trouble' ? words(item.detail) : ''].filter(Boolean).join(' · ')}
      </p>
      <Aim item={item} />
    </div>
  )
}

/** What a check has to show, and what it showed last. */
function Aim({ item }: { item: NextItem }) {
  const { t } = useTranslation()
  const { said, rangeOf } = useQuantities()
  const { words } = useUnits()
  const { check, last } = item
  if (!check) return null
  const expected = rangeOf(check.quantity, check.expected_low_c, check.expected_high_c)
  const aim = item.aim ? words(item.aim) : expected && t('shift.expected', { range: expected })
  const read = last && t('shift.last', { value: said(check.quantity, last.value), time: whenOf(last.at) })
  const line = [aim, read].filter(Boolean).join(' · ')
  return line ? <p className="next-aim">{line}</p> : null
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
