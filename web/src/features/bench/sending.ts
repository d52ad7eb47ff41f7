import type { Schemas } from '../../shared/client/client'
import type { Question } from './api'

type Plan = Schemas['PlanView']['document']

/** Why a question of heat cannot become a plan's bath step; null when it can. */
export function sendable(question: Question): 'shape' | 'medium' | 'programme' | null {
  if (question['medium'] !== 'bath') return 'medium'
  if (question['programme'] !== 'steady') return 'programme'
  return question['shape'] === 'slab' ? null : 'shape'
}

/** Whether a plan has a step that takes a bath's settings. */
export function hasBath(plan: Plan): boolean {
  return plan.steps.some(takesBath)
}

export function takesBath(step: Plan['steps'][number]): boolean {
  return 'bath_c' in step && 'thickness_m' in step
}

/** The plan with the question's thickness, start, bath and time in its bath step. */
export function withBath(plan: Plan, question: Question): Plan {
  const steps = plan.steps.map((step) =>
    takesBath(step)
      ? {
          ...step,
          thickness_m: Number(question['thickness_m']),
          start_c: Number(question['start_c']),
          bath_c: Number(question['surroundings_c']),
          duration_s: Number(question['duration_s']),
        }
      : step,
  )
  return { ...plan, steps }
}
