/** Whether a plan stands on the list; what was kept from a server that did not say so yet does. */
export function isCurrent(plan: { standing?: string }): boolean {
  return (plan.standing ?? 'current') === 'current'
}
