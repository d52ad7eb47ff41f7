import type { Schemas } from '../../shared/client/client'
import { measureFor, withUnit, written } from '../../shared/quantities'
import { lengthOf } from '../../shared/clock'
import type { Reference } from '../../shared/reference'
import type { UnitChoice } from '../../shared/units'
import type { Step } from './api'

export type Kind = Schemas['StepKindRead']
type Spec = Schemas['FieldSpec']

export function kindOf(reference: Reference, step: Step): Kind | undefined {
  return reference.step_kinds.find((kind) => kind.key === step.kind)
}

export function valueOf(step: Step, field: string): unknown {
  return (step as unknown as Record<string, unknown>)[field]
}

/** A step with one setting changed; counts stay whole. */
export function withValue(step: Step, spec: Spec, value: unknown): Step {
  const whole =
    spec.kind === 'number' &&
    spec.step === null &&
    typeof valueOf(step, spec.name) === 'number' &&
    spec.show === '' &&
    typeof value === 'number'
  return { ...step, [spec.name]: whole ? Math.round(value) : value } as Step
}

/** Where the word of a choice stands: with what a cook reads at the pass, or with the Bench's. */
export const choiceKeys = (option: string) => [`choices.${option}`, `bench.options.${option.replaceAll('.', '_')}`]

/** What a step is known by: its main settings in the person's units, the first by itself. */
export function mainSettings(
  kind: Kind | undefined,
  step: Step,
  choice: UnitChoice,
  option: (name: string) => string,
): [string, string] {
  const main = (kind?.fields ?? []).filter((spec) => spec.main)
  const first = [
    ...main.filter((spec) => spec.kind === 'temperature'),
    ...main.filter((spec) => spec.kind !== 'temperature'),
  ]
  const said = first.map((spec) => settingSaid(spec, valueOf(step, spec.name), choice, option))
  return [said[0] ?? '', said.slice(1).join(', ')]
}

function settingSaid(spec: Spec, value: unknown, choice: UnitChoice, option: (name: string) => string): string {
  if (typeof value === 'string') return option(value)
  if (typeof value !== 'number') return ''
  if (spec.kind === 'time' && value === 0) return option('at_once')
  if (spec.kind === 'time') return lengthOf(value * (spec.size ?? 1))
  const measure = measureFor(spec.kind, spec.show, choice)
  const shown = written(measure.toShown(value * (spec.size ?? 1)), spec.kind === 'temperature' ? 0 : 2)
  return measure.unit ? withUnit(shown, measure.unit) : `× ${shown}`
}

/** What kind of step it is, where its name does not say so already. */
export const kindUnless = (name: string, kind: string): string => (name.startsWith(kind) ? '' : kind)
