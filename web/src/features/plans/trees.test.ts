import { describe, expect, it } from 'vitest'

import type { Decision, Tree } from './api'
import { outcomeOf, walk } from './trees'

const tree: Tree = {
  id: 'codex-2022',
  name: 'three questions',
  first: 'a',
  questions: [
    { id: 'a', text: 'a?', yes: 'not_ccp', no: 'b' },
    { id: 'b', text: 'b?', yes: 'c', no: 'modify' },
    { id: 'c', text: 'c?', yes: 'ccp', no: 'modify' },
  ],
  source: { citation: 'made up for the test', tag: 'derived' },
}

function decision(answers: Record<string, boolean>): Decision {
  return {
    step: 'cook',
    tree: 'codex-2022',
    answers: Object.entries(answers).map(([question, yes]) => ({ question, yes, reason: '', by: '', by_step: '' })),
  }
}

describe('a decision tree', () => {
  it.each([
    [{}, 'open'],
    [{ a: true }, 'not_ccp'],
    [{ a: false }, 'open'],
    [{ a: false, b: false }, 'modify'],
    [{ a: false, b: true, c: true }, 'ccp'],
    [{ a: false, b: true, c: false }, 'modify'],
  ] as [Record<string, boolean>, string][])('%j ends at %s', (answers, outcome) => {
    expect(outcomeOf([tree], decision(answers))).toBe(outcome)
  })

  it('asks one question after the other and no more', () => {
    expect(walk([tree], decision({ a: false })).asked.map((question) => question.id)).toEqual(['a', 'b'])
    expect(walk([tree], decision({ a: true })).asked.map((question) => question.id)).toEqual(['a'])
  })

  it('keeps answers off the path out of it', () => {
    expect(walk([tree], decision({ a: true, c: true })).outcome).toBe('not_ccp')
  })
})
