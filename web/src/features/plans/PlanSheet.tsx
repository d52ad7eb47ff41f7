import { useTranslation } from 'react-i18next'
import { useSearchParams } from 'react-router'

import { ProblemLine } from '../../shared/parts/ProblemLine'
import { StateMark } from '../../shared/parts/StateMark'
import type { Reference } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { useScreen } from '../../shared/useScreen'
import { PhoneSheet, type Sheet, SheetView } from '../sheet'
import { type Step, useSheet, useSuggestions } from './api'
import { withAll } from './HazardsTab'
import { choiceKeys, kindOf, kindUnless, mainSettings } from './kinds'
import { moved, placed } from './moving'
import { SheetDrawer } from './SheetDrawer'
import type { Draft } from './useDraft'
import { useMayWrite } from './writing'

/** The plan as it is worked on: the sheet, and beside it whatever cell was touched. */
export function PlanSheet({ draft, reference, planId }: { draft: Draft; reference: Reference; planId: string }) {
  const { t } = useTranslation()
  const mayWrite = useMayWrite()
  const { plan, change } = draft
  const sheet = useSheet(planId, plan)
  const suggestions = useSuggestions(planId, plan)
  const [search, setSearch] = useSearchParams()
  const at = search.get('at')
  const open = (to: string | null) =>
    setSearch((now) => {
      const next = new URLSearchParams(now)
      if (to) next.set('at', to)
      else next.delete('at')
      return next
    })
  const { width, phone } = useScreen()
  const card = useCardWords(reference, plan.steps)
  if (sheet.error && !sheet.data) return <ProblemLine problem={sheet.error} />
  if (!sheet.data)
    return (
      <p role="status" className="quiet">
        {t('plans.proving')}
      </p>
    )
  const shown = named(sheet.data, plan.steps)
  const take = (key: string) => {
    const hazard = suggestions.data?.find((each) => each.key === key)
    if (hazard) change((now) => ({ hazards: withAll(now.hazards, [hazard]) }))
  }
  return (
    <div className={at ? 'plan-sheet with-drawer' : 'plan-sheet'}>
      <div className="plan-sheet-main">
        <Standing sheet={shown} problem={sheet.error} />
        {phone ? (
          <PhoneSheet sheet={shown} card={card} at={at} onOpen={open} width={width - 34} />
        ) : (
          <SheetView
            sheet={shown}
            card={card}
            at={at}
            onOpen={open}
            onMove={mayWrite ? (step, by) => change((now) => ({ steps: moved(now.steps, step, by) })) : undefined}
            onPlace={
              mayWrite ? (step, before) => change((now) => ({ steps: placed(now.steps, step, before) })) : undefined
            }
            onTake={mayWrite ? take : undefined}
            label={t('sheet.of', { name: plan.name })}
          />
        )}
      </div>
      {at && <SheetDrawer draft={draft} reference={reference} planId={planId} sheet={shown} at={at} onOpen={open} />}
    </div>
  )
}

/** What the proof says, in one line above the sheet. */
function Standing({ sheet, problem }: { sheet: Sheet; problem: unknown }) {
  const { words } = useUnits()
  const state = {
    meets: 'would_meet',
    advisory: 'advisory',
    departs: 'departs',
    needs_measuring: 'not_measured',
    fails: 'would_fail',
    not_proved: 'not_measured',
    empty: 'not_measured',
  }[sheet.state]
  return (
    <div className="plan-standing" aria-live="polite">
      <StateMark state={state} bare size={24} />
      <p className={{ fails: 'hot', departs: 'strong', advisory: 'strong' }[sheet.state as string] ?? ''}>
        {words(sheet.sentence)}
      </p>
      <ProblemLine problem={problem} />
    </div>
  )
}

function useCardWords(reference: Reference, steps: readonly Step[]) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  return (column: Sheet['columns'][number]) => {
    const step = steps.find((each) => each.id === column.step)
    if (!step) return { main: '', rest: '' }
    const [main, rest] = mainSettings(kindOf(reference, step), step, choice, (option) => t(choiceKeys(option) as never))
    return { main: main || kindUnless(column.name, t(`kinds.${step.kind}`)), rest }
  }
}

/** Names as they are typed now, while the rest of the sheet is still on its way. */
function named(sheet: Sheet, steps: readonly Step[]): Sheet {
  const names = new Map(steps.map((step) => [step.id, step.name]))
  return {
    ...sheet,
    columns: sheet.columns.map((column) => ({ ...column, name: names.get(column.step) ?? column.name })),
  }
}
