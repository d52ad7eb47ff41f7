// @vitest-environment jsdom
import { act, cleanup, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { Refusal, running, server } from '../../testing'
import type { Plan, PlanView } from './api'
import { useDraft } from './useDraft'

const PATH = '/api/v1/plans/p1'

function view(revision: number, plan: object, by = 'Ilse Brandvik'): PlanView {
  const document = { name: 'Thigh', note: '', steps: [], hazards: [], controls: [], ingredients: [], ...plan }
  return { plan_id: 'p1', revision, updated_by: by, document, versions: [], gaps: [] } as unknown as PlanView
}

/** A server that saves what it is sent, one revision further. */
function saving(first = 1) {
  let revision = first
  return server({
    [`PUT ${PATH}`]: ({ body }: { body: unknown }) =>
      view((revision += 1), (body as { document: object }).document as object),
  })
}

beforeEach(() => void vi.useFakeTimers({ shouldAdvanceTime: true }))
afterEach(() => {
  cleanup()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const wait = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms))

describe('the draft', () => {
  it('saves itself after a pause, once for what was typed in one breath', async () => {
    const { of } = saving()
    const { result } = running(() => useDraft(view(1, {}), true))
    act(() => result.current.change({ name: 'Thigh,' }))
    act(() => result.current.change({ name: 'Thigh, in bag' }))
    expect(result.current.dirty).toBe(true)
    await wait(400)
    expect(of('PUT')).toHaveLength(0)
    await wait(800)
    expect(of('PUT').map((each) => (each.body as { document: Plan }).document.name)).toEqual(['Thigh, in bag'])
    await waitFor(() => expect(result.current.dirty).toBe(false))
  })

  it('loses no key that is typed while it is being saved', async () => {
    let go: (() => void) | undefined
    const { of } = server({
      [`PUT ${PATH}`]: async ({ body }: { body: unknown }) => {
        if (!go) await new Promise<void>((resolve) => (go = resolve))
        return view(2, (body as { document: object }).document)
      },
    })
    const { result } = running(() => useDraft(view(1, {}), true))
    act(() => result.current.change({ name: 'A' }))
    await wait(1000)
    expect(result.current.saving).toBe(true)
    act(() => result.current.change({ name: 'AB' }))
    act(() => go?.())
    await wait(50)
    expect(result.current.plan.name).toBe('AB')
    await wait(1200)
    expect((of('PUT').at(-1)?.body as { document: Plan }).document.name).toBe('AB')
  })

  it('sends a save that failed again under the same key, so that it lands once', async () => {
    let down = true
    const { of } = server({
      [`PUT ${PATH}`]: ({ body }: { body: unknown }) =>
        down ? new TypeError('gone') : view(2, (body as { document: object }).document),
    })
    const { result } = running(() => useDraft(view(1, {}), true))
    act(() => result.current.change({ name: 'B' }))
    await wait(1000)
    await waitFor(() => expect(result.current.problem).toBeTruthy())
    expect(result.current.plan.name).toBe('B')
    down = false
    act(() => result.current.again())
    await waitFor(() => expect(result.current.dirty).toBe(false))
    const keys = of('PUT').map((each) => each.key)
    expect(keys).toHaveLength(2)
    expect(new Set(keys).size).toBe(1)
  })

  it('takes back and does again, over the whole document', async () => {
    saving()
    const { result } = running(() => useDraft(view(1, {}), true))
    act(() => result.current.change({ name: 'C' }))
    await wait(3000)
    act(() => result.current.change({ guests: 'higher_risk' } as Partial<Plan>))
    expect(result.current.mayUndo).toBe(true)
    act(() => result.current.undo())
    expect(result.current.plan.guests).not.toBe('higher_risk')
    act(() => result.current.undo())
    expect(result.current.plan.name).toBe('Thigh')
    act(() => result.current.redo())
    expect(result.current.plan.name).toBe('C')
    expect(result.current.mayRedo).toBe(true)
  })

  it('changes nothing for who may only look', async () => {
    const { of } = saving()
    const { result } = running(() => useDraft(view(1, {}), false))
    act(() => result.current.change({ name: 'D' }))
    await wait(3000)
    expect(result.current.plan.name).toBe('Thigh')
    expect(of('PUT')).toHaveLength(0)
  })
})

const STEPS = [
  { id: 'cook', name: 'Bath', bath_c: 63, line: '', takes: [], out_of: '' },
  { id: 'keep', name: 'Cold keep', days: 5, line: '', takes: [], out_of: '' },
]

describe('two who write at once', () => {
  const clash = new Refusal(409, { code: 'conflict', sentence: 'Somebody saved.', fields: { revision: 2 } })

  it('keep both, where they wrote in different fields, and are told', async () => {
    const theirs = [STEPS[0], { ...STEPS[1], days: 4 }]
    let first = true
    const { of } = server({
      [`PUT ${PATH}`]: ({ body }: { body: unknown }) => {
        if (first) {
          first = false
          return clash
        }
        return view(3, (body as { document: object }).document)
      },
      [`GET ${PATH}`]: view(2, { steps: theirs }, 'Rui Fontelmo'),
    })
    const { result } = running(() => useDraft(view(1, { steps: STEPS }), true))
    act(() => result.current.change({ steps: [{ ...STEPS[0], bath_c: 65 }, STEPS[1]] } as unknown as Partial<Plan>))
    await wait(1000)
    await waitFor(() => expect(result.current.joined).toEqual({ by: 'Rui Fontelmo', count: 1 }))
    await wait(1200)
    const sent = (of('PUT').at(-1)?.body as { revision: number; document: { steps: typeof STEPS } }) ?? null
    expect(sent.revision).toBe(2)
    expect(sent.document.steps).toEqual([{ ...STEPS[0], bath_c: 65 }, theirs[1]])
  })

  it('are asked, where both wrote in one field; taking theirs leaves mine one step back', async () => {
    const other = view(2, { steps: [{ ...STEPS[0], bath_c: 70 }, STEPS[1]] }, 'Rui Fontelmo')
    const { of } = server({ [`PUT ${PATH}`]: clash, [`GET ${PATH}`]: other })
    const { result } = running(() => useDraft(view(1, { steps: STEPS }), true))
    act(() => result.current.change({ steps: [{ ...STEPS[0], bath_c: 65 }, STEPS[1]] } as unknown as Partial<Plan>))
    await wait(1000)
    await waitFor(() => expect(result.current.conflict).toBeTruthy())
    const tries = of('PUT').length
    await wait(5000)
    expect(of('PUT')).toHaveLength(tries) // nothing is written over somebody else's by itself
    act(() => result.current.loadTheirs(other))
    expect(result.current.plan).toBe(other.document)
    act(() => result.current.undo())
    expect((result.current.plan.steps[0] as unknown as { bath_c: number }).bath_c).toBe(65)
  })

  it('keep mine goes over theirs only when it is said', async () => {
    let calls = 0
    const { of } = server({
      [`PUT ${PATH}`]: ({ body }: { body: unknown }) =>
        (calls += 1) === 1 ? clash : view(3, (body as { document: object }).document),
      [`GET ${PATH}`]: view(2, { name: 'Theirs' }),
    })
    const { result } = running(() => useDraft(view(1, {}), true))
    act(() => result.current.change({ name: 'Mine' }))
    await wait(1000)
    await waitFor(() => expect(result.current.conflict).toBeTruthy())
    act(() => result.current.keepMine())
    await waitFor(() => expect(result.current.dirty).toBe(false))
    expect((of('PUT').at(-1)?.body as { revision: number }).revision).toBe(2)
    expect(result.current.plan.name).toBe('Mine')
  })
})
