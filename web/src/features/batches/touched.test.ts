import { describe, expect, it } from 'vitest'

import type { Waiting } from '../../shared/outbox'
import type { Batch } from './api'
import { withTouched } from './touched'

const block = (step: string, started = false) => ({ step, name: step, started, finished: false, starts: '', ends: '' })
const batch = {
  batch_id: 'b',
  running: ['cook'],
  startable: ['chill'],
  blocks: [block('cook', true), block('chill'), block('keep')],
  plan: { steps: [{ id: 'cook' }, { id: 'chill' }, { id: 'keep' }] },
} as unknown as Batch
const touch = (step: string, way: string, beside = false) =>
  ({ path: `/api/v1/batches/b/steps/${step}/${way}`, body: { at: '2026-11-26T09:00:00Z', beside } }) as Waiting

describe('what was touched without a network', () => {
  it('begins a step, ends the one that ran, and offers the next', () => {
    const found = withTouched(batch, [touch('chill', 'start')])
    expect(found.running).toEqual(['chill'])
    expect(found.startable).toEqual(['keep'])
    expect(found.blocks.map((each) => [each.started, each.finished])).toEqual([
      [true, true],
      [true, false],
      [false, false],
    ])
  })

  it('begins one beside what runs', () => {
    expect(withTouched(batch, [touch('chill', 'start', true)]).running).toEqual(['cook', 'chill'])
  })

  it('ends a step, and goes on in the order it was touched', () => {
    const found = withTouched(batch, [touch('chill', 'start'), touch('chill', 'finish'), touch('keep', 'start')])
    expect(found.running).toEqual(['keep'])
    expect(found.startable).toEqual([])
  })

  it('leaves the batch as it is for readings and actions', () => {
    expect(withTouched(batch, [{ path: '/api/v1/batches/b/readings', body: {} } as Waiting])).toEqual(batch)
  })
})
