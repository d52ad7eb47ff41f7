import { isOf, useWaiting, type Waiting } from '../../shared/outbox'
import { useHolder } from '../../shared/session'
import type { Batch } from './api'

const STEP = /\/steps\/([^/]+)\/(start|finish)$/

/** The batch as it will be once what was touched here without a network has been sent: so that work can go on. */
export function withTouched(batch: Batch, entries: Waiting[]): Batch {
  return entries.reduce((now, { path, body }) => {
    const [, step, way] = STEP.exec(path) ?? []
    if (!step) return now
    const { at, beside } = body as { at: string; beside?: boolean }
    return way === 'start' ? withBegun(now, step, at, beside ?? false) : withEnded(now, [step], at)
  }, batch)
}

function withBegun(batch: Batch, step: string, at: string, beside: boolean): Batch {
  const ended = beside ? batch : withEnded(batch, batch.running, at)
  const next = batch.plan.steps[batch.plan.steps.findIndex((each) => each.id === step) + 1]
  const waits = next && !batch.blocks.find((block) => block.step === next.id)?.started
  return {
    ...ended,
    running: [...ended.running, step],
    startable: [...ended.startable.filter((each) => each !== step), ...(waits ? [next.id] : [])],
    blocks: ended.blocks.map((block) => (block.step === step ? { ...block, started: true, starts: at } : block)),
  }
}

function withEnded(batch: Batch, steps: string[], at: string): Batch {
  return {
    ...batch,
    running: batch.running.filter((each) => !steps.includes(each)),
    blocks: batch.blocks.map((block) => (steps.includes(block.step) ? { ...block, finished: true, ends: at } : block)),
  }
}

/** A batch with what waits here of whoever is signed in. */
export function useTouched(batch: Batch | undefined): Batch | undefined {
  const entries = useWaiting()
  const holder = useHolder()
  const mine = entries.filter((each) => each.batchId === batch?.batch_id && !each.refusal && isOf(each, holder))
  return batch && mine.length ? withTouched(batch, mine) : batch
}
