import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'

import { askAnew } from '../../shared/client/askAnew'
import { EntryKey, Problem } from '../../shared/client/client'
import { type Plan, type PlanView, readPlan, savePlan } from './api'
import { merged } from './merging'
import { apart, stepped, type Trail } from './trail'

const PAUSE_MS = 900

/**
 * The plan on screen: every change is kept here at once and saved after a pause; a conflict is told, never
 * overwritten.
 */
export function useDraft(view: PlanView, mayWrite: boolean) {
  const queries = useQueryClient()
  const [plan, setPlan] = useState<Plan>(view.document)
  const [trail, setTrail] = useState<Trail>({ past: [], future: [], at: 0 })
  const [saved, setSaved] = useState<PlanView>(view)
  const [problem, setProblem] = useState<unknown>(null)
  const [saving, setSaving] = useState(false)
  const [joined, setJoined] = useState<{ by: string; count: number } | null>(null)
  const base = useRef(view.document)
  const [key] = useState(() => new EntryKey())
  const latest = useRef(plan)
  const dirty = JSON.stringify(plan) !== JSON.stringify(saved.document)
  const conflict = problem instanceof Problem && problem.code === 'conflict' ? problem : null

  const save = useCallback(
    async (revision: number) => {
      const sent = latest.current
      setSaving(true)
      try {
        const entry = { revision, document: sent }
        const reply = await savePlan(view.plan_id, entry, key.for(entry))
        key.done()
        base.current = reply.document
        setSaved(reply)
        setProblem(null)
        // take over the controls the server made, unless somebody wrote in them meanwhile: then the next save brings
        // them
        setPlan((now) => {
          if (now === sent) return reply.document
          return now.controls === sent.controls ? { ...now, controls: reply.document.controls } : now
        })
        queries.setQueryData(['plan', view.plan_id], reply)
        await askAnew(queries, { queryKey: ['plans'] })
      } catch (error) {
        const both = await joinedWith(error, view.plan_id, base.current, latest.current)
        if (!both) return setProblem(error)
        base.current = both.theirs.document
        latest.current = both.plan
        setSaved(both.theirs)
        setPlan(both.plan) // it differs from what is saved, so it is saved next
        setJoined({ by: both.theirs.updated_by, count: both.count })
      } finally {
        setSaving(false)
      }
    },
    [view.plan_id, queries, key],
  )

  useEffect(() => {
    latest.current = plan
  }, [plan])

  useEffect(() => {
    if (!mayWrite || !dirty || problem || saving) return
    const timer = setTimeout(() => void save(saved.revision), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [plan, dirty, problem, saving, mayWrite, save, saved.revision])

  // what was typed in the last second is saved when the page is left, and asked about when the window is
  const leaving = useRef({ dirty, mayWrite, revision: saved.revision })
  useEffect(() => {
    leaving.current = {
      dirty,
      mayWrite: mayWrite && !(problem instanceof Problem && problem.code === 'conflict'),
      revision: saved.revision,
    }
  })
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (leaving.current.dirty && leaving.current.mayWrite) event.preventDefault()
    }
    window.addEventListener('beforeunload', ask)
    return () => {
      window.removeEventListener('beforeunload', ask)
      const { dirty: unsaved, mayWrite: may, revision } = leaving.current
      if (unsaved && may) void save(revision)
    }
  }, [save])

  const change = useCallback(
    (changed: Partial<Plan> | ((now: Plan) => Partial<Plan>)) => {
      if (!mayWrite) return
      setProblem((now: unknown) => (now instanceof Problem && now.code === 'conflict' ? now : null))
      const now = latest.current
      setTrail((known) => stepped(known, now, Date.now()))
      latest.current = { ...now, ...(typeof changed === 'function' ? changed(now) : changed) }
      setPlan(latest.current)
    },
    [mayWrite],
  )

  const go = useCallback((to: Plan, next: Trail) => {
    setProblem((now: unknown) => (now instanceof Problem && now.code === 'conflict' ? now : null))
    setTrail(next)
    latest.current = to
    setPlan(to)
  }, [])
  const undo = useCallback(() => {
    const to = trail.past.at(-1)
    if (to) go(to, { past: trail.past.slice(0, -1), future: [latest.current, ...trail.future], at: 0 })
  }, [trail, go])
  const redo = useCallback(() => {
    const [to, ...future] = trail.future
    if (to) go(to, { past: [...trail.past, latest.current], future, at: 0 })
  }, [trail, go])

  function loadTheirs(theirs: PlanView) {
    const mine = latest.current
    setTrail((known) => apart(known, mine)) // what was mine is one step back
    base.current = theirs.document
    setSaved(theirs)
    setPlan(theirs.document)
    setProblem(null)
  }

  function keepMine() {
    const revision = Number(conflict?.fields.revision)
    setProblem(null)
    void save(revision)
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
    keepMine,
    again: () => void save(saved.revision),
    undo,
    redo,
    mayUndo: trail.past.length > 0,
    mayRedo: trail.future.length > 0,
  }
}

/** What somebody else saved meanwhile put together with what stands here; nothing where both wrote in one field. */
async function joinedWith(error: unknown, planId: string, base: Plan, mine: Plan) {
  if (!(error instanceof Problem) || error.code !== 'conflict') return null
  try {
    const theirs = await readPlan(planId)
    const both = merged(base, mine, theirs.document)
    return both.clashes.length ? null : { plan: both.plan, theirs, count: both.taken.length }
  } catch {
    return null
  }
}

export type Draft = ReturnType<typeof useDraft>
