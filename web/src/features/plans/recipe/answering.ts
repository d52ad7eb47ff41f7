import type { Plan, Question } from './api'

/** Which option of each question was taken, by what it asks; the first until somebody chooses. */
export type Answers = Readonly<Record<string, string>>

/** What a question asks, of what: the same while the text beside it is typed on. */
export function keyOf(question: Question): string {
  return [question.step, question.ingredient, question.words].join('|')
}

/** The place of the option that was taken; the first where none was, or it is not offered any more. */
export function chosenOf(question: Question, answers: Answers): number {
  const words = answers[keyOf(question)]
  return Math.max(
    question.options.findIndex((each) => each.words === words),
    0,
  )
}

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
  return questions.reduce((so, question) => withOption(so, question, chosenOf(question, answers)), plan)
}
