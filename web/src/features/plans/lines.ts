import type { Step } from './api'

/** The lines of a plan by name, in the order they begin; the main one has none. */
export function linesOf(steps: readonly Step[]): string[] {
  return [...new Set(steps.map((step) => step.line))]
}

/** The lines that may run into a step: ended before it, of another name, and taken by no other. */
export function endedLines(steps: readonly Step[], step: Step): string[] {
  const at = steps.findIndex((each) => each.id === step.id)
  const taken = new Set(steps.flatMap((each) => (each.id === step.id ? [] : each.takes)))
  return linesOf(steps).filter(
    (line) => line !== step.line && !taken.has(line) && steps.every((each, i) => each.line !== line || i < at),
  )
}

/** The steps a line may come out of, asked of its first step: earlier ones of other lines. */
export function rootsFor(steps: readonly Step[], step: Step): Step[] {
  const at = steps.findIndex((each) => each.id === step.id)
  const first = steps.find((each) => each.line === step.line)
  if (step.line === '' || first?.id !== step.id) return []
  return steps.slice(0, at).filter((each) => each.line !== step.line)
}

/** Steps whose joins still make sense: what a step cannot take or come out of any more is let go. */
export function withSoundLines(steps: readonly Step[]): Step[] {
  return steps.map((step) => {
    const may = new Set(endedLines(steps, step))
    const roots = new Set(rootsFor(steps, step).map((each) => each.id))
    const takes = step.takes.filter((line) => may.has(line))
    const out_of = roots.has(step.out_of) ? step.out_of : ''
    return takes.length === step.takes.length && out_of === step.out_of ? step : { ...step, takes, out_of }
  })
}
