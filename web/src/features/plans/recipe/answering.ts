import type { Plan, Question } from './api'

/** Which option of each question was taken, by the question's place; the first until somebody chooses. */
export type Answers = Readonly<Record<number, number>>

/** A plan with one option of a question. */
export function withOption(plan: Plan, question: Question, option: number): Plan {
  const { settings = {}, enters = '' } = question.options[option] ?? {}
  if (question.ingredient)
    return {
      ...plan,
      ingredients: plan.ingredients?.map((item) =>
        item.catalogue === question.ingredient ? { ...item, enters } : item,
      ),
    }
  return { ...plan, steps: plan.steps?.map((step) => ({ ...step, ...settings[step.id] })) as Plan['steps'] }
}

/** A plan with all that was answered so far. */
export function withAnswers(plan: Plan, questions: readonly Question[], answers: Answers): Plan {
  return questions.reduce((so, question, i) => withOption(so, question, answers[i] ?? 0), plan)
}
