import { useTranslation } from 'react-i18next'
import { useSearchParams } from 'react-router'

import { timeOf } from '../../shared/clock'
import { StateMark } from '../../shared/parts/StateMark'
import { WorkingFold } from '../../shared/parts/WorkingView'
import { useQuantities, useStepKinds } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { useScreen } from '../../shared/useScreen'
import { choiceKeys, kindUnless, mainSettings } from '../plans'
import { PhoneSheet, type Sheet, SheetView } from '../sheet'
import { type Batch, useBatchSheet } from './api'

type Column = Sheet['columns'][number]

/** The batch on its plan's sheet: measured solid, expected dashed, trouble in its column. */
export function BatchSheet({ batch }: { batch: Batch }) {
  const { t } = useTranslation()
  const found = useBatchSheet(batch)
  const [search, setSearch] = useSearchParams()
  const at = search.get('at')
  const { width, phone } = useScreen()
  const card = useLiveCard(batch)
  if (!found.data) return null
  const { sheet, now_step: step, now_share: share } = found.data
  const now = step && !batch.closed ? { step, share, label: timeOf(batch.now) } : null
  const open = (to: string) => setSearch(to === at ? {} : { at: to })
  const states = new Map(sheet.columns.map((column) => [column.step, stateOf(column)]))
  return (
    <section aria-label={t('sheet.of', { name: batch.plan_name })}>
      {phone ? (
        <PhoneSheet sheet={sheet} card={card} at={at} onOpen={open} width={width - 34} now={now} live />
      ) : (
        <SheetView
          sheet={sheet}
          card={card}
          at={at}
          onOpen={open}
          label={t('sheet.of', { name: batch.plan_name })}
          now={now}
          live
          stateOf={(id) => states.get(id) ?? null}
        />
      )}
      {at && <Told batch={batch} sheet={sheet} at={at} onClose={() => setSearch({})} />}
    </section>
  )
}

function stateOf(column: Column): string | null {
  if (column.standing === 'fails') return 'trouble'
  if (column.state === 'done') return column.standing === 'not_proved' ? 'not_measured' : 'done'
  return column.state === 'running' ? 'running' : null
}

/** What was last read at a step, large; else what its plan sets. */
function useLiveCard(batch: Batch) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const { said } = useQuantities()
  const kinds = useStepKinds().data ?? []
  return (column: Column) => {
    const step = batch.plan.steps.find((each) => each.id === column.step)
    if (!step) return { main: '', rest: '' }
    const kind = kinds.find((each) => each.key === step.kind)
    const [main, rest] = mainSettings(kind, step, choice, (option) => t(choiceKeys(option) as never))
    const read = batch.readings.filter((each) => each.step === column.step && !each.corrected_by).at(-1)
    if (!read) return { main: main || kindUnless(column.name, t(`kinds.${step.kind}`)), rest }
    const what = t(`quantity.${read.quantity}` as never) as string
    return { main: said(read.quantity, read.value), rest: `${what}, ${timeOf(read.taken_at)}` }
  }
}

/** What the touched cell says in full. */
function Told({ batch, sheet, at, onClose }: { batch: Batch; sheet: Sheet; at: string; onClose: () => void }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const [id, part, key] = at.split(':')
  const column = sheet.columns.find((each) => each.step === id)
  const row = sheet.rows.find((each) => each.key === key)
  const cell = row?.cells.find((each) => each.step === id)
  if (!column) return null
  const limits = batch.limits.filter((each) => each.step === id)
  return (
    <div className="sheet told" role="note">
      <div className="row-line">
        <h2 className="mb-0">{column.name}</h2>
        <button type="button" className="btn btn-link push" onClick={onClose}>
          {t('sheet.close')}
        </button>
      </div>
      {part === 'hazard' && row && (
        <>
          <p className="drawer-figure">
            {t('named', { name: words(row.name), said: `${cell?.said ?? ''} ${cell?.amount ?? ''}` })}
          </p>
          <p className="mb-1">{words(row.reason)}</p>
          {row.balance && <p className="quiet mb-1">{t('sheet.whole', { balance: row.balance })}</p>}
          {row.working && <WorkingFold working={row.working} />}
          <p className="quiet small mb-0">{t('sheet.estimateLive')}</p>
        </>
      )}
      {part !== 'hazard' &&
        limits.map((status) => (
          <div key={status.limit.id} className="pb-2">
            <StateMark state={status.forecast?.misses ? 'will_fail' : status.verdict.state} />
            <p className="strong mb-0">{status.title}</p>
            <p className="mb-0">{words(status.verdict.sentence)}</p>
            {status.forecast && <p className="mb-0">{words(status.forecast.sentence)}</p>}
            <WorkingFold working={status.verdict.working} />
          </div>
        ))}
      {part !== 'hazard' && limits.length === 0 && <p className="quiet mb-0">{t('sheet.noLimits')}</p>}
    </div>
  )
}
