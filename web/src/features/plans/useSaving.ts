import { useQueryClient } from '@tanstack/react-query'
import { type Dispatch, type RefObject, type SetStateAction, useCallback, useEffect, useRef, useState } from 'react'

import { askAnew } from '../../shared/client/askAnew'
import { EntryKey, Problem } from '../../shared/client/client'
import { type Plan, type PlanView, readPlan, savePlan } from './api'
import { merged } from './merging'

const PAUSE_MS = 900

/** What is saved of a plan, and how the one on screen gets there: what another saved meanwhile is put together. */
export function useSaving(view: PlanView, latestRef: RefObject<Plan>, show: Dispatch<SetStateAction<Plan>>) {
  const queries = useQueryClient()
  const [saved, setSaved] = useState<PlanView>(view)
  const [problem, setProblem] = useState<unknown>(null)
  const [saving, setSaving] = useState(false)
  const [joined, setJoined] = useState<{ by: string; count: number } | null>(null)
  const base = useRef(view.document)
  const [key] = useState(() => new EntryKey())

  const save = useCallback(
    async (revision: number) => {
      const sent = latestRef.current
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
        show((now) => {
          if (now === sent) return reply.document
          return now.controls === sent.controls ? { ...now, controls: reply.document.controls } : now
        })
        queries.setQueryData(['plan', view.plan_id], reply)
        await askAnew(queries, { queryKey: ['plans'] })
      } catch (error) {
        const both = await joinedWith(error, view.plan_id, base.current, latestRef)
        if (!both) return setProblem(error)
        base.current = both.theirs.document
        latestRef.current = both.plan
        setSaved(both.theirs)
        show(both.plan) // it differs from what is saved, so it is saved next
        setJoined({ by: both.theirs.updated_by, count: both.count })
      } finally {
        setSaving(false)
      }
    },
    [view.plan_id, queries, key, latestRef, show],
  )

  /** Another change is another try; a conflict stands until somebody decides it. */
  const goOn = useCallback(() => setProblem((now: unknown) => (isConflict(now) ? now : null)), [])

  function take(theirs: PlanView) {
    base.current = theirs.document
    setSaved(theirs)
    show(theirs.document)
    setProblem(null)
  }

  function saveOver(revision: number) {
    setProblem(null)
    void save(revision)
  }

  return { saved, problem, saving, joined, save, goOn, take, saveOver }
}

/** Save a while after the last change, but not over a problem that nobody has seen to. */
export function useAutosave(plan: Plan, waits: boolean, revision: number, save: (revision: number) => Promise<void>) {
  useEffect(() => {
    if (!waits) return
    const timer = setTimeout(() => void save(revision), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [plan, waits, revision, save])
}

/** What was typed in the last second is saved when the page is left, and asked about when the window is. */
export function useLeaving(unsaved: boolean, revision: number, save: (revision: number) => Promise<void>) {
  const leaving = useRef({ unsaved, revision })
  useEffect(() => {
    leaving.current = { unsaved, revision }
  })
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (leaving.current.unsaved) event.preventDefault()
    }
    window.addEventListener('beforeunload', ask)
    return () => {
      window.removeEventListener('beforeunload', ask)
      if (leaving.current.unsaved) void save(leaving.current.revision)
    }
  }, [save])
}

export function isConflict(problem: unknown): problem is Problem {
  return problem instanceof Problem && problem.code === 'conflict'
}

/** What somebody else saved meanwhile put together with what stands here; nothing where both wrote in one field. */
async function joinedWith(error: unknown, planId: string, base: Plan, mine: RefObject<Plan>) {
  if (!isConflict(error)) return null
  try {
    const theirs = await readPlan(planId)
    const both = merged(base, mine.current, theirs.document) // with what was typed while theirs was on its way
    return both.clashes.length ? null : { plan: both.plan, theirs, count: both.taken.length }
  } catch {
    return null
  }
}
