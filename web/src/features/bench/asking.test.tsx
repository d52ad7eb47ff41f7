// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { Route, Routes, useLocation } from 'react-router'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn, Refusal, server } from '../../testing'
import type { Family, FieldSpec, Question, Row } from './api'
import { FromFile } from './FromFile'
import { QuestionForm } from './QuestionForm'
import { SendDialog } from './SendDialog'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the question', () => {
  const field = (name: string, kind: string, more: object = {}) =>
    ({ name, kind, main: false, optional: false, low: null, high: null, show: '', options: null, only: {}, ...more }) as unknown as FieldSpec // prettier-ignore
  const FAMILY = {
    key: 'heat',
    fields: [
      field('thickness_m', 'length', { main: true, low: 0.003, high: 0.4 }),
      field('medium', 'choice', { main: true, options: ['bath', 'oven'] }),
      field('wet_bulb_c', 'temperature', { low: 0, high: 100, only: { medium: ['oven'] } }),
      field('pierced', 'flag'),
      field('made', 'day', { optional: true }),
      field('own_reason', 'words'),
    ],
  } as unknown as Family
  const HOME = { thickness_m: 0.03, medium: 'bath', wet_bulb_c: 60, pierced: false, made: '2026-11-26', own_reason: '' }
  let question: Question

  function form(from: Question = HOME) {
    function Page() {
      const [now, setNow] = useState(from)
      question = now
      return <QuestionForm family={FAMILY} home={HOME} question={now} onChange={(change) => setNow({ ...now, ...change })} /> // prettier-ignore
    }
    drawn(<Page />)
  }
  const more = () => fireEvent.click(screen.getByRole('button', { expanded: false }))

  it('has the main things open and the rest one touch away', () => {
    form()
    expect(screen.queryByLabelText('Pierced')).toBeNull()
    expect(screen.getByRole('button', { expanded: false }).textContent).toMatch(/3/)
    more()
    expect(screen.getAllByRole('checkbox')).toHaveLength(1)
  })

  it('hides nothing that it already makes use of', () => {
    form({ ...HOME, pierced: true })
    expect(screen.getByRole<HTMLInputElement>('checkbox').checked).toBe(true)
  })

  it('asks only what belongs to it as it stands', () => {
    form()
    more()
    const before = screen.getAllByRole('textbox').length
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'oven' } })
    expect(question['medium']).toBe('oven')
    expect(screen.getAllByRole('textbox')).toHaveLength(before + 1)
  })

  it('takes a day away only where it may be missing', () => {
    form()
    more()
    const day = document.querySelector<HTMLInputElement>('input[type=date]')
    fireEvent.change(day as HTMLInputElement, { target: { value: '' } })
    expect(question['made']).toBeNull()
  })

  it('is not sent by the enter key, and does not load the page anew', () => {
    form()
    const sent = fireEvent.submit(screen.getByRole('form'))
    expect(sent).toBe(false) // the default was prevented
  })
})

describe('a bath sent into a plan', () => {
  const QUESTION = { medium: 'bath', programme: 'steady', shape: 'slab', thickness_m: 0.035, start_c: 5, surroundings_c: 66, duration_s: 7200 } // prettier-ignore
  const STEP = { kind: 'bath_cook', id: 'cook', name: 'Bath', thickness_m: 0.028, start_c: 5, bath_c: 63, duration_s: 5400 } // prettier-ignore
  const VIEW = { plan_id: 'p1', revision: 4, document: { name: 'Thigh', steps: [{ kind: 'receive', id: 'in' }, STEP] } }

  function Where() {
    const { pathname, search } = useLocation()
    return <p>{pathname + search}</p>
  }
  function sending(question: Question = QUESTION, more: object = {}) {
    const house = server({
      'GET /api/v1/plans': { items: [{ plan_id: 'p1', name: 'Thigh' }, { plan_id: 'p2', name: 'Kraut' }], next: null },
      'GET /api/v1/plans/p1': VIEW,
      'GET /api/v1/plans/p2': { ...VIEW, plan_id: 'p2', document: { name: 'Kraut', steps: [{ kind: 'receive', id: 'in' }] } },
      'PUT /api/v1/plans/p1': (asked: { body: { document: object } }) => ({ ...VIEW, document: asked.body.document }),
      ...more,
    }) // prettier-ignore
    drawn(
      <Routes>
        <Route path="/" element={<SendDialog question={question} onClose={vi.fn()} />} />
        <Route path="*" element={<Where />} />
      </Routes>,
    )
    return house
  }
  const go = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Send' })

  it('changes its bath step alone, on the revision that was read, and goes there', async () => {
    const house = sending()
    await screen.findByRole('option', { name: 'Kraut' })
    fireEvent.click(go())
    expect(await screen.findByText('/plans/p1?at=cook:card')).toBeTruthy()
    expect(house.of('PUT')[0]?.body).toMatchObject({
      revision: 4,
      document: { steps: [{ id: 'in' }, { id: 'cook', thickness_m: 0.035, bath_c: 66, duration_s: 7200, name: 'Bath' }] },
    }) // prettier-ignore
  })

  it('is not taken by a plan that has none', async () => {
    const house = sending()
    await screen.findByRole('option', { name: 'Kraut' })
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'p2' } })
    fireEvent.click(go())
    expect(await screen.findByRole('alert')).toBeTruthy()
    expect(house.of('PUT')).toHaveLength(0)
  })

  it('that somebody else’s change came before says so', async () => {
    sending(QUESTION, {
      'PUT /api/v1/plans/p1': new Refusal(409, { code: 'conflict', sentence: 'Rui saved this plan since.' }),
    })
    await screen.findByRole('option', { name: 'Kraut' })
    fireEvent.click(go())
    expect(await screen.findByText('Rui saved this plan since.')).toBeTruthy()
  })

  it.each([{ medium: 'oven' }, { programme: 'rising' }])('cannot be sent as %j', async (change) => {
    sending({ ...QUESTION, ...change })
    expect(go().disabled).toBe(true)
    expect(screen.queryByRole('combobox')).toBeNull()
  })
})

describe('rows from a logger file', () => {
  const SPEC = { name: 'readings', kind: 'rows' } as unknown as FieldSpec
  const FOUND = { rows: [{ time_s: 0, core_c: 60 }], read: 120, channel: 'T1', channels: ['T1', 'T2'], left_out: 119, doubts: ['03/04 was read as 3 April.'] } // prettier-ignore
  const BEFORE = [{ time_s: 0, core_c: 20 }]
  let rows: Row[]

  function page(reply: unknown = FOUND) {
    const house = server({ 'POST /api/v1/bench/rows': reply })
    function Page() {
      const [now, setNow] = useState<Row[]>(BEFORE)
      rows = now
      return <FromFile family="fit" spec={SPEC} rows={now} onChange={setNow} />
    }
    drawn(<Page />)
    return house
  }
  const choose = (name = 'fridge.csv') =>
    fireEvent.change(screen.getByLabelText(/file/i, { selector: 'input' }), { target: { files: [new File(['x'], name)] } }) // prettier-ignore

  it('say what was taken, what was left out and what is doubtful, and go back', async () => {
    page()
    choose()
    const said = await screen.findByRole('status')
    expect(said.textContent).toMatch(/fridge.csv/)
    expect(said.textContent).toMatch(/119/)
    expect(said.textContent).toMatch(/3 April.*check this/)
    expect(rows).toEqual(FOUND.rows)
    fireEvent.click(screen.getByRole('button', { name: /back/i }))
    expect(rows).toEqual(BEFORE)
    expect(screen.queryByRole('status')).toBeNull()
  })

  it('may be another channel’s, and still go back to what stood there first', async () => {
    const house = page()
    choose()
    fireEvent.change(await screen.findByRole('combobox'), { target: { value: 'T2' } })
    await waitFor(() => expect(house.of('POST')).toHaveLength(2))
    await waitFor(() => expect(screen.getByRole('button', { name: /back/i })).toBeTruthy())
    fireEvent.click(screen.getByRole('button', { name: /back/i }))
    expect(rows).toEqual(BEFORE)
  })

  it('of a file that is no log stay as they were', async () => {
    page(new Refusal(422, { code: 'unreadable_file', sentence: 'This is no log.' }))
    choose('photo.png')
    expect(await screen.findByText('This is no log.')).toBeTruthy()
    expect(rows).toEqual(BEFORE)
  })
})
