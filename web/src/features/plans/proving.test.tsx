// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { Route, Routes, useLocation } from 'react-router'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { setUnit } from '../../shared/units'
import { drawn, Refusal, server } from '../../testing'
import type { Plan } from './api'
import { PlansPage } from './PlansPage'
import { ProofTab } from './ProofTab'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  setUnit('temperature', '°C')
})
const SESSION = { person: { id: 'p', name: 'I', role: 'lead' }, manners: {}, now: '2026-11-26T09:30:00Z', zone: 'UTC', rule_set: 'uk' } // prettier-ignore

describe('a proof before the first batch', () => {
  const PLAN = { name: 'Thigh', steps: [] } as unknown as Plan
  const working = (title: string) => ({ title, formula: 'F', inputs: [], result: '', assumptions: [], source: { citation: 'Code', tag: 'published' } }) // prettier-ignore
  const limit = (state: string, more: object = {}) => ({
    step: 'cook', step_name: 'Bath', title: '7 log', limit: { id: `l${state}`, kind: 'hold' }, time_to_meet_s: null,
    verdict: { state, sentence: `It is ${state}.`, working: working('W'), advice: [] }, ...more,
  }) // prettier-ignore
  const proof = (more: object = {}) => ({
    meets: true, state: 'meets', sentence: 'It should meet its limits.', remedies: [], limits: [limit('pass', { time_to_meet_s: 5400 })],
    curve: { times_s: [], core_c: [], surroundings_c: [], cook_ends_s: 0 }, others: [], schools: [],
    workings: [working('The sum behind it')], ...more,
  }) // prettier-ignore
  const CASE = { step: 'cook', step_name: 'Bath', name: '1 degree low', core_at_end_c: 61.5, time_to_meet_s: 7200, steps: [{ step: 'cook', step_name: 'Bath', meets: true }, { step: 'chill', step_name: 'Slurry', meets: false }] } // prettier-ignore

  function page(found: unknown, more: object = {}) {
    server({
      'GET /api/v1/session': SESSION,
      'GET /api/v1/reference': { quantities: [] },
      'POST /api/v1/plans/p1/proof': found,
      'POST /api/v1/plans/p1/what-ifs': [CASE],
      'POST /api/v1/plans/p1/repetitions': [],
      'POST /api/v1/plans/p1/questions': [],
      ...more,
    })
    drawn(<ProofTab plan={PLAN} planId="p1" />)
  }
  const marks = () => [...document.querySelectorAll('.limits svg, .verdict-big svg')].map((each) => each.getAttribute('aria-label') ?? each.parentElement?.textContent ?? '') // prettier-ignore

  it('says first whether it should meet, then each limit with its time', async () => {
    page(proof())
    expect(await screen.findByText('It should meet its limits.')).toBeTruthy()
    const [line] = within(document.querySelector('.limits') as HTMLElement).getAllByRole('listitem')
    expect(line?.textContent).toMatch(/Bath: 7 log.*It is pass.*1 h 30 min/)
    expect(screen.getByText('The sum behind it')).toBeTruthy()
  })

  it('is never green: what is computed passes nothing', async () => {
    page(proof({ limits: [limit('pass'), limit('not_measured'), limit('too_close'), limit('fail')] }))
    await screen.findByText('It should meet its limits.')
    expect(document.querySelectorAll('.mark-met, .state-pass, .state-met')).toHaveLength(0)
    expect(marks().some((each) => /^Met$/.test(each.trim()))).toBe(false)
  })

  it('that fails says what would pass', async () => {
    page(
      proof({
        meets: false,
        state: 'fails',
        sentence: 'It fails one limit.',
        remedies: ['2 h 10 min in the same bath.'],
      }),
    )
    expect((await screen.findByText('It fails one limit.')).className).toContain('hot')
    expect(screen.getByText('2 h 10 min in the same bath.')).toBeTruthy()
  })

  it('tries one thing different at a time, step by step', async () => {
    page(proof())
    const row = within((await screen.findByText('1 degree low')).closest('tr') as HTMLElement)
    expect(row.getByText('61.5 °C')).toBeTruthy()
    expect(row.getByText('2 h')).toBeTruthy()
    expect(screen.getAllByRole('columnheader').map((each) => each.textContent)).toEqual(
      expect.arrayContaining(['Bath', 'Slurry']),
    )
  })

  it('says never where no time is enough, and nothing where time is not the question', async () => {
    const never = { ...CASE, name: '8 degrees low', time_to_meet_s: null }
    const other = { ...CASE, name: 'half the ice', core_at_end_c: null, time_to_meet_s: null, step: 'chill', step_name: 'Slurry' } // prettier-ignore
    page(proof(), { 'POST /api/v1/plans/p1/what-ifs': [never, other] })
    const cells = (name: RegExp) => [...((screen.getByText(name).closest('tr') as HTMLTableRowElement).cells)].map((c) => c.textContent) // prettier-ignore
    await screen.findByText(/8 degrees low/)
    expect(cells(/8 degrees low/).at(-1)).toBe('not within 48 h')
    expect(cells(/half the ice/).at(-1)).toBe('—')
    expect(cells(/half the ice/)[0]).toBe('Slurry: half the ice') // several steps: each says its own
  })

  it('says how often it would fail over what varies, and what matters most', async () => {
    const varied = { step: 'cook', title: 'Repeated', failing_share: 0.031, error: 0.0017, matters: [{ name: 'thickness', share: 0.62 }, { name: 'bath', share: 0.02 }] } // prettier-ignore
    page(proof(), { 'POST /api/v1/plans/p1/repetitions': [varied] })
    const line = (await screen.findByText('Repeated')).parentElement
    expect(line?.textContent).toMatch(/3\.1.*0\.3.*62 %/)
    expect(line?.textContent).not.toMatch(/ 2 %/)
  })

  it('that cannot be had says why', async () => {
    page(new Refusal(422, { code: 'out_of_range', sentence: 'Water boils at 92.9 °C here.' }))
    expect(await screen.findByText('Water boils at 92.9 °C here.')).toBeTruthy()
  })
})

describe('the library of plans', () => {
  const plan = (n: number, more: object = {}) => ({
    plan_id: `p${n}`, name: `Plan ${n}`, version: null, changed_since_signed: true, gaps: 2, rule_set: 'us',
    updated_by: 'Ilse', updated_at: '2026-11-26T08:00:00Z', decides: [], days: 0, last_batch: null, ...more,
  }) // prettier-ignore
  const REFERENCE = {
    quantities: [],
    families: [{ key: 'bag', name: 'Bag' }, { key: 'pickles', name: 'Ferments' }],
    templates: [
      { key: 'bag', name: 'Thigh', family: 'Bag', about: 'A thigh in a bag.' },
      { key: 'kraut', name: 'Kraut', family: 'Ferments', about: 'Shredded and salted.' },
      { key: 'rib', name: 'Short rib', family: 'Bag', about: 'A rib.' },
    ],
    rule_sets: [{ id: 'us', name: 'United States', edition: '2022' }, { id: 'uk', name: 'United Kingdom', edition: '2024' }],
  } // prettier-ignore
  function Where() {
    const { pathname, search } = useLocation()
    return <p>{pathname + search}</p>
  }
  function library(plans: object[], role = 'lead', at = '/plans', more: object = {}) {
    const house = server({
      'GET /api/v1/session': { ...SESSION, person: { ...SESSION.person, role } },
      'GET /api/v1/reference': REFERENCE,
      'GET /api/v1/plans': { items: plans, next: null },
      'POST /api/v1/plans': { plan_id: 'new' },
      ...more,
    })
    drawn(
      <Routes>
        <Route path="/plans" element={<PlansPage />} />
        <Route path="*" element={<Where />} />
      </Routes>,
      at,
    )
    return house
  }

  it('says of each whether it is signed, changed since, or what is still open', async () => {
    const version = { version: 3 }
    library([plan(1), plan(2, { version, changed_since_signed: false, gaps: 0 }), plan(3, { version })])
    const line = async (n: number) => (await screen.findByText(`Plan ${n}`)).closest('a') as HTMLElement
    expect((await line(1)).textContent).toMatch(/Draft.*2/)
    expect((await line(2)).textContent).toMatch(/Signed version 3/)
    expect((await line(3)).textContent).toMatch(/Signed version 3.*3/)
    expect((await line(2)).getAttribute('href')).toBe('/plans/p2')
  })

  it('is looked through by words and by state once there are many, in the address', async () => {
    library(
      [1, 2, 3, 4, 5, 6].map((n) => plan(n)),
      'lead',
      '/plans?find=4',
    )
    await screen.findByText('Plan 4')
    expect(screen.queryByText('Plan 3')).toBeNull()
    fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'nothing' } })
    expect(screen.getByText('No matches.')).toBeTruthy()
  })

  it('begins a plan from a template of a family, under the kitchen’s own rules', async () => {
    const house = library([])
    fireEvent.click(await screen.findByRole('button', { name: 'New plan' }))
    await screen.findByText('A thigh in a bag.')
    const families = [...document.querySelectorAll('optgroup')].map((each) => each.label)
    expect(families).toEqual(['Bag', 'Ferments'])
    fireEvent.change(screen.getByLabelText('Name of the dish'), { target: { value: 'Caraway kraut' } })
    fireEvent.change(screen.getByLabelText('Begin with'), { target: { value: 'kraut' } })
    expect(screen.getByText('Shredded and salted.')).toBeTruthy()
    fireEvent.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'New plan' }))
    expect(await screen.findByText('/plans/new?at=dish')).toBeTruthy()
    await waitFor(() =>
      expect(house.of('POST')[0]?.body).toEqual({ name: 'Caraway kraut', rule_set: 'uk', template: 'kraut' }),
    )
  })

  it('says what decides, how long it is kept and its last batch', async () => {
    const last_batch = { code: 'B-7', started_at: '2026-11-26T08:00:00Z' }
    library([plan(1, { decides: ['Bath', 'Ice bath'], days: 7, last_batch })])
    const line = (await screen.findByText('Plan 1')).closest('a') as HTMLElement
    expect(line.textContent).toMatch(/decided by Bath, Ice bath.*kept 7 days.*last: B-7/)
  })

  it('begins a plan as another is', async () => {
    const house = library([plan(1, { rule_set: 'eu' })])
    fireEvent.click(await screen.findByRole('button', { name: 'New plan' }))
    fireEvent.change(await screen.findByLabelText('Name of the dish'), { target: { value: 'Thigh, thick' } })
    await screen.findByRole('option', { name: 'Plan 1' })
    fireEvent.change(screen.getByLabelText('Begin with'), { target: { value: 'p1' } })
    fireEvent.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'New plan' }))
    await waitFor(() =>
      expect(house.of('POST')[0]?.body).toMatchObject({ name: 'Thigh, thick', rule_set: 'eu', copy_of: 'p1' }),
    )
  })

  it('stands by families; what is to review says why', async () => {
    const version = { version: 1 }
    const signed = { version, changed_since_signed: false, gaps: 0 }
    library([
      plan(1, { ...signed, family: 'pickles', family_name: 'Ferments' }),
      plan(2, { ...signed, family: 'bag', family_name: 'Bag', review: 'To review: signed 400 days ago.' }),
    ])
    await waitFor(() =>
      expect(screen.getAllByRole('region').map((each) => each.getAttribute('aria-label'))).toEqual(['Bag', 'Ferments']),
    )
    expect(screen.getByText('To review: signed 400 days ago.')).toBeTruthy()
  })

  it('keeps what was put away out of the list until it is asked for, and brings it back', async () => {
    const away = plan(2, { version: { version: 1 }, standing: 'archived' })
    const house = library([plan(1), away, plan(3, { standing: 'deleted' })], 'lead', '/plans?state=archived', {
      'POST /api/v1/plans/p2/return': { plan_id: 'p2', standing: 'current' },
    })
    await screen.findByText('Plan 2')
    expect(screen.queryByText('Plan 1')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: 'More for Plan 2' }))
    fireEvent.click(await screen.findByRole('button', { name: 'Bring back' }))
    await waitFor(() => expect(house.of('POST').map((each) => each.path)).toEqual(['/api/v1/plans/p2/return']))
  })

  it('archives what was signed after saying what that does, and deletes a draft', async () => {
    const house = library([plan(1), plan(2, { version: { version: 1 }, gaps: 0 })], 'lead', '/plans', {
      'DELETE /api/v1/plans/p1': { plan_id: 'p1', standing: 'deleted' },
      'POST /api/v1/plans/p2/archive': { plan_id: 'p2', standing: 'archived' },
    })
    fireEvent.click(await screen.findByRole('button', { name: 'More for Plan 1' }))
    fireEvent.click(await screen.findByRole('button', { name: 'Delete draft' }))
    await waitFor(() => expect(house.of('DELETE')).toHaveLength(1))
    fireEvent.click(screen.getByRole('button', { name: 'More for Plan 2' }))
    fireEvent.click(await screen.findByRole('button', { name: 'Archive' }))
    expect(screen.getByText(/Running batches go on/)).toBeTruthy()
    fireEvent.change(screen.getByLabelText(/Reason/), { target: { value: 'Off the menu' } })
    fireEvent.click(within(screen.getByRole('dialog')).getByRole('button', { name: 'Archive' }))
    await waitFor(() => expect(house.of('POST')[0]?.body).toEqual({ reason: 'Off the menu' }))
  })

  it('is for a cook to read', async () => {
    library([], 'cook')
    expect(await screen.findByText('No plan yet.')).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'New plan' })).toBeNull()
  })
})
