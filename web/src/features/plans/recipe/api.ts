import { keepPreviousData, useQuery } from '@tanstack/react-query'

import { answered, client, keyed, type Schemas } from '../../../shared/client/client'
import { useWrite } from '../../../shared/client/useWrite'

export type Reading = Schemas['RecipeReading']
export type Question = Schemas['RecipeQuestion']
export type Plan = Reading['plan']

/** A recipe as it is read; the last reading stays until the next is there. */
export function useReading(text: string) {
  return useQuery({
    queryKey: ['recipe', text],
    queryFn: () => answered(client.POST('/api/v1/recipes', { body: { text, name: '' } })),
    enabled: text.trim().length > 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  })
}

/** What a plan comes to as it would stand with an answer. */
export function proofOf(plan: Plan) {
  return {
    queryKey: ['recipe-proof', plan],
    queryFn: () => answered(client.POST('/api/v1/proofs', { body: plan })),
    staleTime: Infinity,
    retry: false,
  }
}

export function useBegin() {
  return useWrite(
    (body: Schemas['PlanCreate'], key) =>
      answered(client.POST('/api/v1/plans', { params: { header: keyed(key) }, body })),
    ['plans'],
  )
}
