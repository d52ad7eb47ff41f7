// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import type { Batch } from './api'
import { Deviations } from './Deviations'

const AT = '2026-11-24T10:00:00Z'
const LATE = {
  deviation: 'B-7-D1', step: 'chill', step_name: 'Chill', limit: 'us-cooling', cause: 'forecast', state: 'pending',
  sentence: 'Chill: 5 °C would be reached 40 min late.', standing: '', opened_at: AT, actions: [],
  decision: null, decided_at: null, decided_by: '', reason: '',
} // prettier-ignore
const WAYS = [
  { action: 'Two bags deep', sentence: 'Still 20 min late.', works: false, changes_course: true },
  { action: 'One layer, 12 kg of ice', sentence: 'In time, 30 min to spare.', works: true, changes_course: true },
]

function batch(deviations: object[], more: object = {}): Batch {
  const forecast = { misses: true, working: { title: 'x', formula: '', inputs: [], result: '', source: {} } }
  const limits = [{ step: 'chill', limit: { id: 'us-cooling' }, options: WAYS, forecast }]
  return { batch_id: 'b1', code: 'B-7', deviations, limits, closed: null, ...more } as unknown as Batch
}

function kitchen(role: string, reply: unknown = { batch_id: 'b1', code: 'B-7' }) {
  return server({
    'GET /api/v1/session': { person: { id: 'p', name: 'Somebody', role }, manners: {}, now: AT, zone: 'UTC' },
    'POST /api/v1/batches/b1/actions': reply,
    'POST /api/v1/batches/b1/deviations/B-7-D1/decision': reply,
  })
}

async function seen(role: string, what: Batch, reply?: unknown) {
  const house = kitchen(role, reply)
  drawn(<Deviations onLog={undefined} batch={what} />)
  await waitFor(() => expect(house.of('GET').length).toBeGreaterThan(0))
  return house
}
const last = (house: Awaited<ReturnType<typeof seen>>) => house.of('POST').at(-1)

beforeEach(() => localStorage.clear())
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('trouble', () => {
  it('offers every way out with where it leads, the first that works as the key to press', async () => {
    const house = await seen('cook', batch([LATE]))
    const keys = await screen.findAllByRole('button', { name: 'We have done this' })
    expect(keys.map((key) => key.className.includes('btn-primary'))).toEqual([false, true])
    expect(screen.getByText(/Still 20 min late/)).toBeTruthy()
    fireEvent.click(keys[1]!)
    await waitFor(() => expect(last(house)).toBeTruthy())
    expect(last(house)!.body).toEqual({
      step: 'chill', deviation: 'B-7-D1', action: WAYS[1]!.action, changes_course: true,
      at: expect.stringMatching(/^2026-11-24T10:00/) as string,
    }) // prettier-ignore
  })

  it('lets a cook write what else was done and not decide', async () => {
    const house = await seen('cook', batch([LATE]))
    fireEvent.click(await screen.findByRole('button', { name: 'Something else was done' }))
    expect(screen.queryByRole('button', { name: /Decide on/ })).toBeNull()
    expect(screen.getByText(/The lead or a reviewer decides/)).toBeTruthy()
    fireEvent.change(screen.getByLabelText('What was done'), { target: { value: 'Fan on full' } })
    fireEvent.click(screen.getByLabelText('This changes how it cools from now on'))
    fireEvent.click(screen.getByRole('button', { name: 'Record' }))
    await waitFor(() => expect(last(house)?.body).toMatchObject({ action: 'Fan on full', changes_course: false }))
    await waitFor(() => expect(screen.queryByLabelText('What was done')).toBeNull())
  })

  it('lets a reviewer decide and not log', async () => {
    await seen('reviewer', batch([LATE]))
    expect(await screen.findByRole('button', { name: /Decide on B-7-D1/ })).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'We have done this' })).toBeNull()
  })

  it('is discarded with a reason, and released only with reason and password', async () => {
    const house = await seen('lead', batch([LATE]))
    fireEvent.click(await screen.findByRole('button', { name: /Decide on B-7-D1/ }))
    const key = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name })
    expect(['Discard', 'Reprocess', 'Release'].map((name) => key(name).disabled)).toEqual([true, true, true])
    fireEvent.change(screen.getByLabelText('Reason, printed on the record'), { target: { value: '  Read twice ' } })
    expect(['Discard', 'Reprocess', 'Release'].map((name) => key(name).disabled)).toEqual([false, false, true])
    fireEvent.change(screen.getByLabelText('Your password, to release'), { target: { value: 'larder' } })
    fireEvent.click(key('Release'))
    await waitFor(() => expect(last(house)).toBeTruthy())
    expect(last(house)!.body).toEqual({
      decision: 'release', reason: 'Read twice', password: 'larder', found: null,
    }) // prettier-ignore
  })

  it('asks what was found where a limit is broken, and releases nothing before', async () => {
    const grounds = [{ key: 'entry_wrong', said: 'The entry was a slip.' }]
    const house = await seen('lead', batch([{ ...LATE, grounds }]))
    fireEvent.click(await screen.findByRole('button', { name: /Decide on B-7-D1/ }))
    const key = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name })
    fireEvent.change(screen.getByLabelText('Reason, printed on the record'), { target: { value: 'Read twice' } })
    fireEvent.change(screen.getByLabelText('Your password, to release'), { target: { value: 'larder' } })
    expect(key('Release').disabled).toBe(true)
    fireEvent.change(screen.getByLabelText(/what was found/), { target: { value: 'entry_wrong' } })
    fireEvent.click(key('Release'))
    await waitFor(() => expect(last(house)).toBeTruthy())
    expect(last(house)!.body).toMatchObject({ found: 'entry_wrong' })
  })

  it('keeps reason and password where the server refuses, with its sentence', async () => {
    const refused = new Refusal(409, { code: 'refused', sentence: 'A release needs a reason of substance.' })
    await seen('lead', batch([LATE]), refused)
    fireEvent.click(await screen.findByRole('button', { name: /Decide on B-7-D1/ }))
    fireEvent.change(screen.getByLabelText('Reason, printed on the record'), { target: { value: 'Fine by me' } })
    fireEvent.click(screen.getByRole('button', { name: 'Discard' }))
    expect(await screen.findByText(/reason of substance/)).toBeTruthy()
    expect(screen.getByLabelText<HTMLTextAreaElement>('Reason, printed on the record').value).toBe('Fine by me')
  })

  it('that is decided stands last, says by whom and asks nothing more', async () => {
    const done = {
      ...LATE,
      deviation: 'B-7-D0',
      decision: 'discard',
      decided_at: AT,
      decided_by: 'Ilse',
      reason: 'Warm.',
    }
    await seen('lead', batch([done, LATE]))
    const sheets = screen.getAllByRole('region')
    expect(sheets.map((each) => each.getAttribute('aria-label'))).toEqual(['B-7-D1', 'B-7-D0'])
    expect(within(sheets[1]!).getByText(/Decided: Discard, Ilse/)).toBeTruthy()
    expect(within(sheets[1]!).queryByRole('button')).toBeNull()
  })

  it('of a closed batch is read only', async () => {
    await seen('lead', batch([LATE], { closed: { decision: 'discard' } }))
    expect(screen.queryByRole('button', { name: /Decide on/ })).toBeNull()
  })
})
