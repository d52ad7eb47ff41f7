import { type RefObject, useCallback, useState } from 'react'

import type { Plan } from './api'
import { apart, stepped, type Trail } from './trail'

/** What the plan was before, and the way back and forth; ``go`` shows what is gone to. */
export function useTrail(latestRef: RefObject<Plan>, go: (to: Plan) => void) {
  const [trail, setTrail] = useState<Trail>({ past: [], future: [], at: 0 })

  const keep = useCallback((before: Plan) => setTrail((known) => stepped(known, before, Date.now())), [])
  const keepApart = useCallback((before: Plan) => setTrail((known) => apart(known, before)), [])
  const undo = useCallback(() => {
    const to = trail.past.at(-1)
    if (!to) return
    setTrail({ past: trail.past.slice(0, -1), future: [latestRef.current, ...trail.future], at: 0 })
    go(to)
  }, [trail, latestRef, go])
  const redo = useCallback(() => {
    const [to, ...future] = trail.future
    if (!to) return
    setTrail({ past: [...trail.past, latestRef.current], future, at: 0 })
    go(to)
  }, [trail, latestRef, go])

  return { keep, keepApart, undo, redo, mayUndo: trail.past.length > 0, mayRedo: trail.future.length > 0 }
}
