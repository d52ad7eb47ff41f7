import { keepPreviousData, useQuery } from '@tanstack/react-query'

import { answered, client, keyed, type Schemas } from '../../shared/client/client'
import { everyPlan } from '../../shared/client/paged'
import { useWrite } from '../../shared/client/useWrite'

export type PlanView = Schemas['PlanView']
export type Plan = PlanView['document']
export type Step = Plan['steps'][number]
export type Hazard = Plan['hazards'][number]
export type Decision = Hazard['decisions'][number]
export type Control = Plan['controls'][number]
export type Proof = Schemas['ShownProof']
export type Tree = Schemas['Tree']

export function usePlans() {
  return useQuery({ queryKey: ['plans'], queryFn: everyPlan })
}

export function usePlan(planId: string) {
  return useQuery({ queryKey: ['plan', planId], queryFn: () => readPlan(planId), refetchOnWindowFocus: false })
}

export function readPlan(planId: string) {
  return answered(client.GET('/api/v1/plans/{plan_id}', { params: { path: { plan_id: planId } } }))
}

const MOVED = ['plan', 'plans', 'ledger'] // what a plan put away or brought back makes old

export function useCreatePlan() {
  return useWrite(
    (body: Schemas['PlanCreate'], key) =>
      answered(client.POST('/api/v1/plans', { params: { header: keyed(key) }, body })),
    ['plans'],
  )
}

export function useArchivePlan(planId: string) {
  return useWrite(
    (body: Schemas['Archiving'], key) =>
      answered(
        client.POST('/api/v1/plans/{plan_id}/archive', {
          params: { path: { plan_id: planId }, header: keyed(key) },
          body,
        }),
      ),
    MOVED,
  )
}

export function useDeleteDraft(planId: string) {
  return useWrite(
    (_: null, key) =>
      answered(client.DELETE('/api/v1/plans/{plan_id}', { params: { path: { plan_id: planId }, header: keyed(key) } })),
    MOVED,
  )
}

export function useReturnPlan(planId: string) {
  return useWrite(
    (_: null, key) =>
      answered(
        client.POST('/api/v1/plans/{plan_id}/return', { params: { path: { plan_id: planId }, header: keyed(key) } }),
      ),
    MOVED,
  )
}

/** What one plan says otherwise than another. */
export function useDifferences(planId: string, other: string) {
  return useQuery({
    queryKey: ['differences', planId, other],
    queryFn: () =>
      answered(
        client.GET('/api/v1/plans/{plan_id}/differences/{other}', { params: { path: { plan_id: planId, other } } }),
      ),
    enabled: Boolean(other),
  })
}

export function savePlan(planId: string, body: Schemas['PlanSave'], key: string) {
  return answered(
    client.PUT('/api/v1/plans/{plan_id}', { params: { path: { plan_id: planId }, header: keyed(key) }, body }),
  )
}

export function useSign(planId: string) {
  return useWrite(
    (body: Schemas['PlanSign'], key) =>
      answered(
        client.POST('/api/v1/plans/{plan_id}/signature', {
          params: { path: { plan_id: planId }, header: keyed(key) },
          body,
        }),
      ),
    ['plan', 'plans', 'ledger'],
  )
}

/** What is worked out of the plan as it stands on screen: the last answer stays until the next is there. */
const OF_PLAN = { placeholderData: keepPreviousData, staleTime: Infinity, retry: false } as const
const of = (planId: string, plan: Plan) => ({ params: { path: { plan_id: planId } }, body: plan })

export function useProof(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['proof', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/proof', of(planId, plan))),
  })
}

export function useSheet(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['sheet', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/sheet', of(planId, plan))),
  })
}

/** The plan's cook and chill as questions for the Bench. */
export function useAsked(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['asked', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/questions', of(planId, plan))),
  })
}

export function useWhatIfs(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['what-ifs', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/what-ifs', of(planId, plan))),
  })
}

export function useRepeated(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['repeated', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/repetitions', of(planId, plan))),
  })
}

export function useSuggestions(planId: string, plan: Plan) {
  return useQuery({
    ...OF_PLAN,
    queryKey: ['suggestions', planId, plan],
    queryFn: () => answered(client.POST('/api/v1/plans/{plan_id}/suggestions', of(planId, plan))),
  })
}

export async function usualAnswers(planId: string, plan: Plan, hazard: string, decision: Decision) {
  const advice = await answered(
    client.POST('/api/v1/plans/{plan_id}/advice/{hazard}/{step}', {
      params: { path: { plan_id: planId, hazard, step: decision.step } },
      body: plan,
    }),
  )
  return advice.answers[decision.tree] ?? []
}

export function useChanges(planId: string, version: number | undefined, revision: number, until?: number) {
  return useQuery({
    queryKey: ['changes', planId, version, revision, until],
    queryFn: () =>
      answered(
        client.GET('/api/v1/plans/{plan_id}/versions/{version}/changes', {
          params: { path: { plan_id: planId, version: version ?? 1 }, query: { until } },
        }),
      ),
    enabled: version !== undefined,
  })
}

/** What was shown on real food of a signed plan's steps, and the batches that could show it. */
export function useValidations(planId: string, signed: boolean) {
  return useQuery({
    queryKey: ['validations', planId],
    queryFn: () =>
      answered(client.GET('/api/v1/plans/{plan_id}/validations', { params: { path: { plan_id: planId } } })),
    enabled: signed,
  })
}

export function useSignValidation(planId: string) {
  return useWrite(
    (body: Schemas['ValidationSign'], key) =>
      answered(
        client.POST('/api/v1/plans/{plan_id}/validations', {
          params: { path: { plan_id: planId }, header: keyed(key) },
          body,
        }),
      ),
    ['validations', 'ledger'],
  )
}

export function useRevokeValidation(planId: string) {
  return useWrite(
    ({ step, reason }: { step: string; reason: string }, key) =>
      answered(
        client.POST('/api/v1/plans/{plan_id}/validations/{step}/revocation', {
          params: { path: { plan_id: planId, step }, header: keyed(key) },
          body: { reason },
        }),
      ),
    ['validations', 'ledger'],
  )
}
