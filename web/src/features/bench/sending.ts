import type { Schemas } from '../../shared/client/client'
import type { Question } from './api'

type Plan = Schemas['PlanView']['document']
type Shape = Schemas['BathCook']['shape']

/** Why a question of heat cannot become a plan's bath step; null when it can. */
export function sendable(question: Question): 'medium' | 'programme' | null {
  if (question['medium'] !== 'bath') return 'medium'
  return question['programme'] === 'steady' ? null : 'programme'
}

/** Whether a plan has a step that takes a bath's settings. */
export function hasBath(plan: Plan): boolean {
  return plan.steps.some(takesBath)
}

export function takesBath(step: Plan['steps'][number]): boolean {
  return 'bath_c' in step && 'thickness_m' in step
}

/** The plan with the question's size, start, bath and time in its bath step. */
export function withBath(plan: Plan, question: Question): Plan {
  const steps = plan.steps.map((step) =>
    takesBath(step)
      ? {
          ...step,
          thickness_m: Number(question['thickness_m']),
          shape: question['shape'] as Shape,
          ...('length_m' in question ? { length_m: Number(question['length_m']) } : {}),
          ...('width_m' in question ? { width_m: Number(question['width_m']) } : {}),
          start_c: Number(question['start_c']),
          bath_c: Number(question['surroundings_c']),
          duration_s: Number(question['duration_s']),
        }
      : step,
  )
  return { ...plan, steps }
}
