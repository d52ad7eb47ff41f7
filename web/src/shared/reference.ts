import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useTranslation } from 'react-i18next'

import { answered, client, type Schemas } from './client/client'
import { measureFor, withUnit, written } from './quantities'
import { useUnits } from './units'

export type Reference = Schemas['Reference'] & { step_kinds: Schemas['StepKindRead'][] }
export type QuantityInfo = Schemas['QuantityInfo']

/** What does not change within a release: rule sets, quantities, ingredients, hazards, trees. */
export function useReference() {
  return useQuery({
    queryKey: ['reference'],
    queryFn: () => answered(client.GET('/api/v1/reference')),
    staleTime: Infinity,
  })
}

/** Every kind of step with its settings, their bounds and units. */
export function useStepKinds() {
  return useQuery({
    queryKey: ['step-kinds'],
    queryFn: () => answered(client.GET('/api/v1/step-kinds')),
    staleTime: Infinity,
  })
}

/** What a plan is written with: the reference and the kinds of step, once both are there. */
export function usePlanReference(): { data?: Reference; error: unknown } {
  const reference = useReference()
  const kinds = useStepKinds()
  const data = useMemo(
    () => (reference.data && kinds.data ? { ...reference.data, step_kinds: kinds.data } : undefined),
    [reference.data, kinds.data],
  )
  return { data, error: reference.error ?? kinds.error }
}

/** What is worked out and never read off an instrument has no row there. */
const UNITS_OF_COMPUTED: Readonly<Record<string, string>> = { loss: '%', nitrite: 'ppm', nitrate: 'ppm' }

/** What can be measured, with its unit and the kit that reads it. */
export function useQuantities() {
  const reference = useReference()
  const known = reference.data?.quantities ?? []
  const { choice } = useUnits()
  const { t } = useTranslation()
  const info = (key: string) => known.find((each) => each.key === key)
  const measure = (key: string) => measureFor(info(key)?.kind ?? 'number', info(key)?.unit ?? '', choice)
  return {
    known,
    problem: reference.error,
    again: () => void reference.refetch(),
    info,
    measure,
    unitOf: (key: string) => UNITS_OF_COMPUTED[key] ?? measure(key).unit,
    /** A value of it in the person's unit, as many decimals as its instruments tell apart. */
    said: (key: string, inside: number) => {
      if (info(key)?.kind === 'flag') return t(inside >= 0.5 ? 'pad.right' : 'pad.notRight')
      return withUnit(written(measure(key).toShown(inside), info(key)?.decimals ?? 1), measure(key).unit)
    },
    /** What is expected of it, from and to, in the person's unit; nothing where it is no number. */
    rangeOf: (key: string, low: number, high: number) => {
      if (info(key)?.kind === 'flag') return ''
      const [from, to] = [low, high].map((each) => written(measure(key).toShown(each), info(key)?.decimals ?? 1))
      return withUnit(`${from}–${to}`, measure(key).unit)
    },
  }
}
