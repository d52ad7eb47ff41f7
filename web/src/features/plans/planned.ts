/** What is computed is never met: it should be, it would fail, or nothing is known of it. */
export function planned(state: string): 'would_meet' | 'would_fail' | 'not_measured' {
  if (state === 'pass') return 'would_meet'
  return state === 'not_measured' || state === 'too_close' ? 'not_measured' : 'would_fail'
}

const MARKS = {
  meets: 'would_meet',
  advisory: 'advisory',
  departs: 'departs',
  needs_measuring: 'not_measured',
  not_proved: 'not_measured',
  fails: 'would_fail',
} as const

/** Whether a proof in this state stands in the way of a signature without a reason. */
export const isOpen = (state: string): boolean =>
  state === 'fails' || state === 'not_proved' || state === 'needs_measuring'

/** The mark of what a whole proof comes to. */
export function markOfProof(state: keyof typeof MARKS): string {
  return MARKS[state]
}

/** A time since the start as a clock writes it, 1:05. */
export function hoursAndMinutes(seconds: number): string {
  const minutes = Math.round(seconds / 60)
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
}
