import { useSyncExternalStore } from 'react'

import { Problem } from './client/client'
import { nowMs } from './clock'

let awaySince: number | null = null
const listeners = new Set<() => void>()

function set(next: number | null): void {
  if (next === awaySince) return
  awaySince = next
  listeners.forEach((listener) => listener())
}

/** An answer came, or did not: what every question of the page tells of the server. */
export function tellReach(problem: unknown): void {
  if (!(problem instanceof Problem) || problem.code !== 'offline') set(null)
  else set(awaySince ?? nowMs())
}

/** Since when nothing answers, by the kitchen's clock; null while something does. */
export function useAway(): number | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => awaySince,
    () => null,
  )
}
