import type { Plan } from './api'

/** What the plan was before each change, and what was taken back. */
export interface Trail {
  past: Plan[]
  future: Plan[]
  at: number
}

const ONE_BREATH_MS = 800
const MOST = 100

/** One more change: what is typed in one breath is one step; what had been taken back is gone. */
export function stepped(trail: Trail, before: Plan, nowMs: number): Trail {
  const same = trail.past.length > 0 && trail.future.length === 0 && nowMs - trail.at < ONE_BREATH_MS
  return { past: same ? trail.past : [...trail.past, before].slice(-MOST), future: [], at: nowMs }
}

/** A step by itself, whatever was typed a moment ago: another's plan taken over in place of one's own. */
export function apart(trail: Trail, before: Plan): Trail {
  return { past: [...trail.past, before].slice(-MOST), future: [], at: 0 }
}
