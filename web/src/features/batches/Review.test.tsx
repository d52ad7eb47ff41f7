// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import type { Batch } from './api'
import { Deviations } from './Deviations'
import { Review } from './Review'

const AT = '2026-11-26T09:00:00Z'
const SIGN = 'POST /api/v1/batches/b1/countersignature'

function kitchen(role: string, replies: Record<string, unknown> = {}) {
  const session = { person: { id: 'p', name: 'Ilse', role }, manners: {}, now: AT, zone: 'UTC' }
  return server({ 'GET /api/v1/session': session, ...replies })
}

function batch(more: object = {}): Batch {
  const base = {
    batch_id: 'b1',
    code: 'B-7',
    closed: null,
    blocking: [],
    unproved: [],
    limits: [],
    deviations: [],
    running: [],
    startable: [],
  }
  return { ...base, ...more } as unknown as Batch
}

const chosen = (decision: string) => fireEvent.change(screen.getByRole('combobox'), { target: { value: decision } })
const button = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Sign off' })

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('what stands in the way of a release does not stand in the way of throwing it away', async () => {
  kitchen('lead')
  drawn(<Review batch={batch({ blocking: ['Slurry has not ended.'] })} />)
  await screen.findByText('Slurry has not ended.')
  expect(button().disabled).toBe(true)
  chosen('rework')
  expect(button().disabled).toBe(true)
  chosen('discard')
  expect(button().disabled).toBe(false)
})

it('while a step runs nobody signs it off: it is folded away, and can be thrown away all the same', async () => {
  kitchen('lead')
  drawn(<Review batch={batch({ running: ['cook'], blocking: ['Cook has not ended.', 'Chill has not ended.'] })} />)
  const fold = (await screen.findByText('Before it can be released')).closest('details')
  expect(fold?.open).toBe(false)
  expect(fold?.querySelector('summary')?.textContent).toContain('2')
  chosen('discard')
  expect(button().disabled).toBe(false)
})

it('a signature carries the decision, the reason and the password; a refusal is told and loses nothing', async () => {
  let wrong = true
  const house = kitchen('reviewer', {
    [SIGN]: () =>
      wrong
        ? new Refusal(403, { code: 'password', sentence: 'That is not your password.' })
        : { batch_id: 'b1', code: 'B-7' },
  })
  drawn(<Review batch={batch()} />)
  fireEvent.change(await screen.findByPlaceholderText(/Reason/), { target: { value: ' All as planned, read twice. ' } })
  fireEvent.change(screen.getByPlaceholderText(/password/i), { target: { value: 'nearly' } })
  fireEvent.click(button())
  await screen.findByText('That is not your password.')
  wrong = false
  fireEvent.change(screen.getByPlaceholderText(/password/i), { target: { value: 'right' } })
  fireEvent.click(button())
  await waitFor(() => expect(house.of('POST')).toHaveLength(2))
  expect(house.of('POST')[1]?.body).toEqual({
    decision: 'release',
    reason: 'All as planned, read twice.',
    password: 'right',
  })
  expect(house.of('POST')[0]?.key).not.toBe(house.of('POST')[1]?.key) // another entry
})

it('a cook sees no signature to give; a closed batch shows who closed it', async () => {
  kitchen('cook')
  const { unmount } = drawn(<Review batch={batch()} />)
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Sign off' })).toBeNull())
  unmount()
  drawn(<Review batch={batch({ closed: { decision: 'release', at: AT, by: 'Rui', reason: 'Read and met.' } })} />)
  expect(screen.getByText(/Rui/)).toBeTruthy()
  expect(screen.getByText(/Read and met\./)).toBeTruthy()
})

it('a limit that no reading proves any more is taken up by its name', async () => {
  const house = kitchen('lead', { 'POST /api/v1/batches/b1/deviations': { batch_id: 'b1', code: 'B-7' } })
  drawn(
    <Review batch={batch({ blocking: ['x'], unproved: [{ step: 'cook', limit: 'l1', title: 'Bath, lethality' }] })} />,
  )
  fireEvent.click(await screen.findByRole('button', { name: /Bath, lethality/ }))
  await waitFor(() => expect(house.of('POST')[0]?.body).toEqual({ step: 'cook', limit: 'l1' }))
})

const deviation = (more: object = {}) => ({
  deviation: 'B-7-D1', step: 'chill', step_name: 'Slurry', limit: 'l1', cause: 'forecast', sentence: 'Will miss 21 °C.',
  standing: 'Will miss 21 °C by 1 h.', opened_at: AT, state: 'fail', actions: [], decision: null, decided_at: null,
  ...more,
}) // prettier-ignore
const option = (action: string, works: boolean) => ({
  action,
  works,
  sentence: `${action} leads there.`,
  changes_course: true,
})

it('trouble has what can be done, the first that works foremost, and open trouble stands before what was decided', async () => {
  const house = kitchen('cook', { 'POST /api/v1/batches/b1/actions': { batch_id: 'b1', code: 'B-7' } })
  const limits = [
    {
      step: 'chill',
      limit: { id: 'l1' },
      verdict: { state: 'pending', working: null },
      forecast: { misses: true, working: { title: 't', formula: '', inputs: [], result: '', assumptions: [] } },
      options: [option('Wait', false), option('One layer', true)],
    },
  ]
  const decided = deviation({
    deviation: 'B-7-D0',
    decision: 'release',
    decided_at: AT,
    decided_by: 'Rui',
    reason: 'r',
  })
  drawn(<Deviations onLog={undefined} batch={batch({ limits, deviations: [decided, deviation()] })} />)
  expect(screen.getAllByRole('region').map((each) => each.getAttribute('aria-label'))).toEqual(['B-7-D1', 'B-7-D0'])
  const open = screen.getByRole('region', { name: 'B-7-D1' })
  expect(within(open).getByText('Slurry: Will miss 21 °C by 1 h.')).toBeTruthy()
  const ways = await within(open).findAllByRole('button', { name: /We have done this/i })
  expect(ways.map((each) => each.className.includes('btn-primary'))).toEqual([false, true])
  fireEvent.click(ways[1] as HTMLElement)
  await waitFor(() =>
    expect(house.of('POST')[0]?.body).toMatchObject({ action: 'One layer', deviation: 'B-7-D1', changes_course: true }),
  )
})
