// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { setUnit } from '../../shared/units'
import { drawn, server } from '../../testing'
import { Board, type Row, shortName, tells, useShown } from './Board'
import { Journey, JourneyAxis } from './Journey'
import { PhoneSheet } from './PhoneSheet'
import type { Sheet } from './SheetView'

type Column = Sheet['columns'][number]
const column = (step: string, more: object = {}) =>
  ({ step, name: step, length_s: 3600, standing: 'meets', curves: [core([5, 63])], limits: [], checks: [], findings: [], goes_in: [], line: '', takes: [], out_of: '', ...more }) as unknown as Column // prettier-ignore
const core = (values: number[], basis = 'computed', times = [0, 3600]) => ({ quantity: 'core', times_s: times, values, basis }) // prettier-ignore
const sheet = (columns: Column[], rows: Row[] = []) => ({ columns, rows, cold_c: 5, hot_c: 60, exposed_by: '' }) as unknown as Sheet // prettier-ignore
const cell = (step: string, more: object = {}) => ({ step, act: 'none', said: '', amount: '', critical: false, open: false, standing: 'none', ...more }) // prettier-ignore
const row = (key: string, cells: object[], more: object = {}) =>
  ({ key, name: key, type: 'biological', reason: '', taken: true, significant: true, balance: '−6 log', standing: 'none', cells, ...more }) as unknown as Row // prettier-ignore

beforeEach(() =>
  server({ 'GET /api/v1/reference': { quantities: [{ key: 'ph', unit: 'pH', kind: 'ph', decimals: 2 }] } }),
)
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  setUnit('temperature', '°C')
})

describe('the journey', () => {
  const H = 200
  const path = (selector: string) => document.querySelector(selector)?.getAttribute('d') ?? ''
  const points = (d: string) => d.slice(1).split('L').map((pair) => pair.split(' ').map(Number)) // prettier-ignore
  const journey = (columns: Column[], more: object = {}) =>
    drawn(<Journey sheet={sheet(columns)} widths={columns.map(() => 300)} height={H} chosen={null} {...more} />)

  it('goes on from column to column on one scale of temperature', () => {
    journey([column('cook', { curves: [core([5, 63])] }), column('chill', { curves: [core([63, 4])] })])
    const [first, second] = [...document.querySelectorAll('.curve-expected')].map((each) =>
      points(each.getAttribute('d') ?? ''),
    )
    expect(first?.at(-1)).toEqual(second?.[0]) // where one ends the next begins
    expect(first?.[0]?.[0]).toBe(0)
    expect(second?.at(-1)?.[0]).toBe(600)
    expect(first?.[0]?.[1]).toBeGreaterThan(first?.at(-1)?.[1] ?? 0) // colder is lower
  })

  it('draws measured solid, expected dashed, declared dotted, and a miss as a miss', () => {
    journey([
      column('a', { curves: [core([5, 20], 'measured')] }),
      column('b', { curves: [core([20, 30], 'declared')] }),
      column('c', { standing: 'fails', curves: [core([30, 40])] }),
      column('d', { curves: [core([40, 63])] }),
    ])
    for (const one of ['.curve-measured', '.curve-said', '.curve-misses', '.curve-expected'])
      expect(document.querySelectorAll(one)).toHaveLength(1)
  })

  it('marks readings taken by hand as points, and leaves a logger’s many to the line', () => {
    journey([column('a', { curves: [core([5, 20, 30], 'measured', [0, 1800, 3600])] })])
    expect(document.querySelectorAll('.curve-dot')).toHaveLength(3)
    cleanup()
    const many = Array.from({ length: 60 }, (_, n) => n)
    journey([column('a', { curves: [core(many, 'measured', many.map((n) => n * 60))] })]) // prettier-ignore
    expect(document.querySelectorAll('.curve-dot')).toHaveLength(0)
  })

  it('keeps a time beyond a column within it', () => {
    journey([column('a', { curves: [core([5, 63], 'measured', [0, 9999])] }), column('b')])
    expect(points(path('.curve-measured')).at(-1)?.[0]).toBe(300)
  })

  it('says what is no heat in words, and draws it on no scale of temperature', async () => {
    const sour = { quantity: 'ph', times_s: [0, 3600], values: [6.5, 4.2], basis: 'computed' }
    journey([column('a', { curves: [sour] })])
    const said = await screen.findByText(/pH.*6.50 → 4.20$/i)
    expect(said.getAttribute('class')).toContain('as-planned')
    expect(document.querySelectorAll('.journey path')).toHaveLength(0)
  })

  it('has a limit’s number on its line, shortened where there is no room', () => {
    const limits = [
      { id: 'l', quantity: 'core', standing: 'fails', marks: [{ value: 21, by_s: 7200, label: '21 °C' }] },
    ]
    journey([column('a', { limits })])
    expect(document.querySelector('.journey-limit-text')?.textContent).toBe('21 °C · 2 h')
    cleanup()
    drawn(<Journey sheet={sheet([column('a', { limits })])} widths={[60]} height={H} chosen={null} />)
    expect(document.querySelector('.journey-limit-text')?.textContent).toBe('21 °C')
    expect(document.querySelector('.journey-limit')?.getAttribute('class')).toContain('fails')
  })

  it('shows where a batch is now, and never beyond its column', () => {
    journey([column('a'), column('b')], { now: { step: 'b', share: 1.7, label: '10:40' } })
    expect(document.querySelector('.track-now')?.getAttribute('x1')).toBe('600')
    cleanup()
    journey([column('a')], { now: { step: 'gone', share: 0.5, label: '10:40' } })
    expect(document.querySelector('.track-now')).toBeNull()
  })

  it('is read in the person’s degrees', () => {
    const labels = () => [...document.querySelectorAll('.journey-axis-text')].map((each) => each.textContent)
    drawn(<JourneyAxis sheet={sheet([column('a')])} height={H} />)
    expect(labels()).toEqual(['0 °C', '20 °C', '40 °C', '60 °C'])
    cleanup()
    setUnit('temperature', '°F')
    drawn(<JourneyAxis sheet={sheet([column('a')])} height={H} />)
    expect(labels()).toEqual(['0 °F', '50 °F', '100 °F', '150 °F'])
  })
})

describe('the hazard board', () => {
  const board = (rows: Row[], more: object = {}) => {
    const heard = { onOpen: vi.fn(), onTake: vi.fn() }
    drawn(<Board rows={rows} firstRow={2} chosen={null} cellProps={(r, c) => ({ tabIndex: -1, 'data-cell': `${r}:${c}` })} {...heard} {...more} />) // prettier-ignore
    return heard
  }

  it('says what happens in every column, and for ears as well', () => {
    const cells = [
      cell('in', { said: 'comes in' }),
      cell('cook', { said: 'killed', amount: '−6.5', critical: true, standing: 'meets' }),
    ]
    board([row('Salmonella', cells)])
    expect(screen.getByRole('button', { name: 'Salmonella: comes in' })).toBeTruthy()
    expect(screen.getByRole('button', { name: /^Salmonella: killed −6.5, / }).className).toContain('ccp meets')
    expect(screen.getByText('−6 log')).toBeTruthy()
  })

  it('asks for a decision where one is open, and marks trouble with more than a colour', () => {
    board([row('Listeria', [cell('a', { open: true, said: 'grows' }), cell('b', { critical: true, standing: 'fails', said: 'grows', amount: '+3' })])]) // prettier-ignore
    const [open, fails] = screen.getAllByRole('button')
    expect(open?.textContent).not.toContain('grows')
    expect(open?.className).toContain('open')
    expect(fails?.querySelector('svg')).toBeTruthy()
    expect(fails?.textContent).not.toContain('+3')
  })

  it('leads from a cell to its hazard at its step', () => {
    const heard = board([row('Salmonella', [cell('in'), cell('cook')])])
    fireEvent.click(screen.getAllByRole('button')[1] as HTMLElement)
    expect(heard.onOpen).toHaveBeenCalledWith('cook', 'Salmonella')
    expect(screen.getAllByRole('button')[1]?.getAttribute('data-cell')).toBe('2:1')
  })

  it('offers what the process raises and nobody took yet, and never says it is proved', () => {
    const heard = board([row('Bacillus', [cell('a')], { taken: false })])
    const line = screen.getByRole('row')
    expect(line.className).toContain('offered')
    expect(within(line).queryByText('−6 log')).toBeNull()
    fireEvent.click(within(line).getAllByRole('button')[0] as HTMLElement)
    expect(heard.onTake).toHaveBeenCalledWith('Bacillus')
  })

  it('says not proved before any sum, and set aside where it was', () => {
    board([row('A', [cell('a')], { standing: 'not_proved' }), row('B', [cell('a')], { significant: false })])
    const [proved, aside] = screen.getAllByRole('rowheader')
    expect(proved?.textContent).not.toContain('−6 log')
    expect(proved?.innerHTML).toContain('hot')
    expect(aside?.textContent).toContain('not relevant')
  })

  it.each([
    ['Listeria monocytogenes', 'L. monocytogenes'],
    ['Clostridium botulinum, proteolytic', 'C. botulinum, proteolytic'],
    ['Salmonella', 'Salmonella'],
    ['Listeria', 'Listeria'],
    ['Glass', 'Glass'],
  ])('writes %s as %s where room is short', (name, short) => expect(shortName(name)).toBe(short))

  it('hides what neither lives nor decides, and shows all when asked', () => {
    const rows = [
      row('Salmonella', [cell('a')]),
      row('Glass', [cell('a')], { type: 'physical' }),
      row('Nitrite', [cell('a', { critical: true })], { type: 'chemical' }),
    ]
    expect(rows.map(tells)).toEqual([true, false, true])
    function Page() {
      const { shown, hidden, turn } = useShown(rows)
      const [count] = useState(0)
      return (
        <button onClick={turn}>
          {shown.map((each) => each.key).join()} {hidden + count}
        </button>
      )
    }
    drawn(<Page />)
    expect(screen.getByRole('button').textContent).toBe('Salmonella,Nitrite 1')
    fireEvent.click(screen.getByRole('button'))
    expect(screen.getByRole('button').textContent).toBe('Salmonella,Glass,Nitrite 1')
  })
})

describe('the sheet on a phone', () => {
  const phone = (columns: Column[], at: string | null, rows: Row[] = []) => {
    const onOpen = vi.fn()
    drawn(<PhoneSheet sheet={sheet(columns, rows)} card={(each) => ({ main: `main ${each.step}`, rest: 'rest' })} at={at} onOpen={onOpen} width={390} />) // prettier-ignore
    return onOpen
  }
  const open = () => screen.getAllByRole('button', { expanded: true }).map((each) => each.textContent)

  it('opens where it goes wrong, unless somebody looks elsewhere', () => {
    phone([column('a'), column('b', { standing: 'fails' }), column('c')], null)
    expect(open()[0]).toContain('b')
    cleanup()
    phone([column('a'), column('b', { standing: 'fails' })], 'a:card')
    expect(open()[0]).toContain('a')
  })

  it('says predicted of what is ahead alone, and nothing of a step without limits', () => {
    const made = [
      column('a', { standing: 'meets', state: 'done' }),
      column('b', { standing: 'fails', state: 'done' }),
      column('c', { standing: 'meets', state: 'waiting' }),
      column('d', { standing: 'none', state: 'done' }),
    ]
    phone(made, null)
    const lines = document.querySelectorAll('.ph-line')
    const marks = [...lines].map((each) => each.querySelector('.state-mark')?.textContent ?? '')
    expect(marks.slice(0, 2).join()).not.toMatch(/predicted/i)
    expect(marks[2]).toMatch(/predicted/i)
    expect(marks[3]).toBe('')
  })

  it('tells limits and hazards of the open step, trouble in red, each leading to its own', () => {
    const limits = [{ id: 'l', title: '21 °C in 2 h', sentence: 'Late.', room: '', standing: 'fails', marks: [], quantity: 'core' }] // prettier-ignore
    const rows = [row('Salmonella', [cell('a', { said: 'grows', amount: '+3' })]), row('Silent', [cell('a')])]
    const onOpen = phone([column('a', { limits })], 'a:card', rows)
    expect(screen.getByText('Late.').className).toContain('hot')
    expect(screen.queryByText('Silent')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: '21 °C in 2 h' }))
    fireEvent.click(screen.getByRole('button', { name: 'Salmonella' }))
    expect(onOpen.mock.calls.flat()).toEqual(['a:limits', 'a:hazard:Salmonella'])
  })
})
