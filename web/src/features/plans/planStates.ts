import type { Schemas } from '../../shared/client/client'
import { isCurrent } from '../../shared/standing'

export type Summary = Schemas['PlanSummary']

export const AWAY = 'archived'
export const STATES = ['signed', 'review', 'changed', 'draft', AWAY] as const

/** The one state a plan is found under; what was put away first, then what its signature is worth. */
export function stateOf(plan: Summary): (typeof STATES)[number] {
  if (!isCurrent(plan)) return AWAY
  if (!plan.version) return 'draft'
  if (plan.review) return 'review'
  return plan.changed_since_signed ? 'changed' : 'signed'
}

/** The mark before its name. */
export function markOf(plan: Summary): string {
  if (plan.damaged) return 'trouble'
  return stateOf(plan) === 'signed' ? 'done' : 'due'
}

/** Plans under their families, in the order the families have. */
export function byFamily(plans: readonly Summary[], order: readonly string[]): [string, Summary[]][] {
  const found = new Map<string, Summary[]>()
  for (const plan of plans) found.set(plan.family ?? '', [...(found.get(plan.family ?? '') ?? []), plan])
  return [...found].sort(([a], [b]) => order.indexOf(a) - order.indexOf(b))
}
