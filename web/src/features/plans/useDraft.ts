import { useCallback, useEffect, useRef, useState } from 'react'

import type { Plan, PlanView } from './api'
import { withSoundLines } from './lines'
import { isConflict, useAutosave, useLeaving, useSaving } from './useSaving'
import { useTrail } from './useTrail'

/**
 * The plan on screen: every change is kept here at once and saved after a pause; a conflict is told, never
 * overwritten.
 */
export function useDraft(view: PlanView, mayWrite: boolean) {
  const [plan, setPlan] = useState<Plan>(view.document)
  const latest = useRef(plan)
  useEffect(() => {
    latest.current = plan
  }, [plan])

  const { saved, problem, saving, joined, save, goOn, take, saveOver } = useSaving(view, latest, setPlan)
  const dirty = JSON.stringify(plan) !== JSON.stringify(saved.document)
  const conflict = isConflict(problem) ? problem : null
  useAutosave(plan, mayWrite && dirty && !problem && !saving, saved.revision, save)
  useLeaving(mayWrite && dirty && !conflict, saved.revision, save)

  const show = useCallback(
    (to: Plan) => {
      goOn()
      latest.current = to
      setPlan(to)
    },
    [goOn],
  )
  const { keep, keepApart, ...trail } = useTrail(latest, show)

  const change = useCallback(
    (changed: Partial<Plan> | ((now: Plan) => Partial<Plan>)) => {
      if (!mayWrite) return
      const now = latest.current
      keep(now)
      const next = { ...now, ...(typeof changed === 'function' ? changed(now) : changed) }
      show(next.steps === now.steps ? next : { ...next, steps: withSoundLines(next.steps) })
    },
    [mayWrite, keep, show],
  )

  function loadTheirs(theirs: PlanView) {
    keepApart(latest.current) // what was mine is one step back
    take(theirs)
  }

  // a signature changes what hangs on the draft, not the draft: take it over where the revision is the same
  const standing =
    view.revision === saved.revision
      ? { ...saved, versions: view.versions, changed_since_signed: view.changed_since_signed }
      : saved

  return {
    plan,
    saved: standing,
    change,
    dirty,
    saving,
    problem,
    conflict,
    joined,
    loadTheirs,
    keepMine: () => saveOver(Number(conflict?.fields.revision)),
    again: () => void save(saved.revision),
    ...trail,
  }
}

export type Draft = ReturnType<typeof useDraft>
