// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, server } from '../../testing'
import type { Batch } from './api'
import { CheckList } from './CheckList'

const QUANTITIES = [
  { key: 'core', unit: '°C', kind: 'temperature', decimals: 1, kit: ['probe'] },
  { key: 'lid', unit: '', kind: 'flag', decimals: 0, kit: [] },
]
const soon = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString()

function check(id: string, more: object = {}) {
  const base = { id, step: 'shelf', step_name: 'Shelf', what: `What of ${id}`, quantity: 'core', state: 'due' }
  return { ...base, due_at: soon(5), planned: false, reading: null, answer: null, expected_low_c: 0, ...more }
}

function batch(...checks: object[]): Batch {
  return {
    batch_id: 'b1', code: 'B-7', checks, probes: [], readings: [{ reading: 'r1', quantity: 'core', value: 62.8 }],
    blocks: [{ step: 'shelf', name: 'Shelf', started: soon(-60) }],
  } as unknown as Batch // prettier-ignore
}

let house: ReturnType<typeof server>
beforeEach(() => {
  house = server({
    'GET /api/v1/reference': { quantities: QUANTITIES },
    'POST /api/v1/batches/b1/checks/answer': { batch_id: 'b1', code: 'B-7' },
  })
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})
const lines = () => screen.getAllByRole('listitem').map((item) => within(item).getByText(/What of/).textContent)

describe('the checks', () => {
  it('have what is still to do first, and the last done on top of what is done', () => {
    const done = (id: string, minutes: number) => check(id, { state: 'done', reading: 'r1', due_at: soon(minutes) })
    drawn(
      <CheckList
        batch={batch(done('a', -60), done('b', -30), check('c'), check('d', { state: 'late' }))}
        onLog={vi.fn()}
      />,
    )
    expect(lines()).toEqual(['What of c', 'What of d', 'What of b', 'What of a'])
  })

  it('have a unit on their key, and a word where eyes are the instrument', async () => {
    const onLog = vi.fn()
    drawn(<CheckList batch={batch(check('a'), check('b', { quantity: 'lid' }))} onLog={onLog} />)
    expect(await screen.findByRole('button', { name: /What of a, °C/ })).toBeTruthy()
    const look = screen.getByRole('button', { name: /Log What of b/ })
    expect(look.textContent).toBe('Look')
    fireEvent.click(look)
    expect(onLog.mock.calls[0]?.[0]).toMatchObject({ batchId: 'b1', check: 'b', quantity: 'lid' })
  })

  it('have no key for who may not log, for what is only planned, and for what was answered', () => {
    const { unmount } = drawn(<CheckList batch={batch(check('a'))} onLog={undefined} />)
    expect(screen.queryAllByRole('button')).toHaveLength(0)
    unmount()
    drawn(
      <CheckList
        batch={batch(
          check('a', { planned: true }),
          check('b', { state: 'missed', answer: 'Probe broken', answered_by: 'A' }),
        )}
        onLog={vi.fn()}
      />,
    )
    expect(screen.queryByRole('button', { name: /Log What of/ })).toBeNull()
    expect(screen.getByText(/Probe broken/)).toBeTruthy()
  })

  it('let a missed one be answered for, with a reason that says something', async () => {
    drawn(<CheckList batch={batch(check('a', { state: 'missed' }))} onLog={vi.fn()} />)
    fireEvent.click(screen.getByRole('button', { name: 'Give a reason' }))
    const save = () =>
      screen.getAllByRole('button').find((each) => each.getAttribute('type') === 'submit') as HTMLButtonElement
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'forgot' } })
    expect(save().disabled).toBe(true)
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'The probe was at the other bath until nine.' } })
    fireEvent.click(save())
    await waitFor(() => expect(house.of('POST')).toHaveLength(1))
    expect(house.of('POST')[0]?.body).toMatchObject({ check: 'a' })
  })

  it('let whatever the plan measures be read at any time', async () => {
    const onLog = vi.fn()
    drawn(<CheckList batch={batch(check('a', { quantity: 'lid', planned: true }))} onLog={onLog} />)
    fireEvent.click(await screen.findByRole('button', { name: 'Lid' }))
    expect(onLog.mock.calls[0]?.[0]).toMatchObject({ step: 'shelf', quantity: 'lid' })
    expect(onLog.mock.calls[0]?.[0].check).toBeUndefined()
  })
})
