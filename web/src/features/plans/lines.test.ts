import { describe, expect, it } from 'vitest'

import type { Step } from './api'
import { endedLines, linesOf, rootsFor, withSoundLines } from './lines'

const step = (id: string, line = '', more: object = {}) =>
  ({ id, name: id, line, takes: [], out_of: '', ...more }) as unknown as Step
const MELT = step('melt', 'chocolate')
const WHIP = step('whip', 'whites')
const FOLD = step('fold', '', { takes: ['chocolate', 'whites'] })

describe('the lines of a plan', () => {
  it('are named in the order they begin', () => {
    expect(linesOf([step('receive'), MELT, WHIP, FOLD])).toEqual(['', 'chocolate', 'whites'])
  })

  it('may run into a later step of another, once', () => {
    const steps = [step('receive'), MELT, WHIP, FOLD, step('coat')]
    expect(endedLines(steps, FOLD)).toEqual(['chocolate', 'whites'])
    expect(endedLines(steps, steps[4] as Step)).toEqual([])
    expect(endedLines(steps, WHIP)).toEqual(['chocolate'].filter((line) => !FOLD.takes.includes(line)))
  })

  it('may come out of an earlier step of another', () => {
    const stock = step('stock', 'stock')
    expect(rootsFor([step('trim'), stock], stock).map((each) => each.id)).toEqual(['trim'])
    expect(rootsFor([step('trim'), stock], step('trim'))).toEqual([])
  })

  it('let go of what cannot run in any more', () => {
    const late = withSoundLines([WHIP, FOLD, MELT])
    expect(late[1]?.takes).toEqual(['whites'])
    const rooted = withSoundLines([step('stock', 'stock', { out_of: 'trim' }), step('trim')])
    expect(rooted[0]?.out_of).toBe('')
    const sound = [MELT, WHIP, FOLD]
    expect(withSoundLines(sound)).toEqual(sound)
  })
})
