import type { Decision, Tree } from './api'

type Question = Tree['questions'][number]
export type Outcome = 'ccp' | 'not_ccp' | 'modify' | 'open'

/** Follow the stored answers along a tree that the server described: the questions met, and where it ends. */
export function walk(trees: readonly Tree[], decision: Decision): { asked: Question[]; outcome: Outcome } {
  const tree = trees.find((each) => each.id === decision.tree)
  const asked: Question[] = []
  let place = tree?.first ?? ''
  for (;;) {
    const question = tree?.questions.find((each) => each.id === place)
    if (!question) return { asked, outcome: place as Outcome }
    asked.push(question)
    const answer = decision.answers.find((each) => each.question === place)
    if (!answer) return { asked, outcome: 'open' }
    place = answer.yes ? question.yes : question.no
  }
}

export function outcomeOf(trees: readonly Tree[], decision: Decision): Outcome {
  return walk(trees, decision).outcome
}
