interface Named {
  id: string
}

/** The steps with one of them moved on or back; as they were where it cannot go there. */
export function moved<S extends Named>(steps: readonly S[], id: string, by: number): S[] {
  const index = steps.findIndex((step) => step.id === id)
  const to = index + by
  const next = [...steps]
  if (index < 0 || to < 0 || to >= steps.length) return next
  const [taken] = next.splice(index, 1)
  if (taken) next.splice(to, 0, taken)
  return next
}

/** The steps with one of them put where another stands: after it when it comes from before it, else before it. */
export function placed<S extends Named>(steps: readonly S[], id: string, at: string): S[] {
  const from = steps.findIndex((step) => step.id === id)
  const to = steps.findIndex((step) => step.id === at)
  return from < 0 || to < 0 ? [...steps] : moved(steps, id, to - from)
}
