// @vitest-environment jsdom
import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'

import { setUnit } from '../../shared/units'
import { drawn } from '../../testing'
import type { Answer, Figure, Picture } from './api'
import { AnswerView } from './AnswerView'
import { Figures } from './Figures'
import { GroundView } from './GroundView'
import { ScalesView } from './ScalesView'

type Ground = Extract<Picture, { kind: 'ground' }>
type Scales = Extract<Picture, { kind: 'scales' }>

afterEach(() => {
  cleanup()
  setUnit('temperature', '°C')
  setUnit('length', 'mm')
})

describe('the ground of salt and pH', () => {
  const area = (words: string, x_to: number, y_from: number, lives: boolean) => ({ words, x_to, y_from, lives })
  const ground = (...areas: object[]) =>
    ({ kind: 'ground', title: 'ground', x_low: 0, x_high: 20, y_low: 2.5, y_high: 7, law: 4.6, at_x: 3, at_y: 5.2, areas }) as unknown as Ground // prettier-ignore

  it('names what can live where the food stands, as the answer says, and what stops the rest', () => {
    drawn(<GroundView picture={ground(area('Listeria', 10, 4.4, true), area('C. botulinum', 5, 4.6, false))} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toMatch(/pH 5.2, 3 %.*Listeria/)
    const [lives, stopped] = screen.getAllByRole('listitem')
    expect(lives?.textContent).toContain('Listeria')
    expect(stopped?.textContent).toMatch(/C. botulinum.*pH 4.6.*5/)
    expect(document.querySelector('.chart-words')?.textContent).toContain('Listeria')
    expect(document.querySelector('.chart-words')?.textContent).not.toContain('botulinum')
  })

  it('says so where nothing can', () => {
    drawn(<GroundView picture={ground(area('Listeria', 10, 4.4, false))} />)
    expect(document.querySelector('.chart-words')?.textContent).not.toContain('Listeria')
  })

  it('keeps an area that reaches past its edge within the frame', () => {
    drawn(<GroundView picture={ground(area('S. aureus', 26, 4, true))} />)
    const drawnArea = document.querySelector('.ground-area')
    expect(Number(drawnArea?.getAttribute('width'))).toBe(560)
  })
})

describe('scales under each other', () => {
  const row = (words: string, more: object) => ({ words, said: '', stretches: [], state: null, at: null, ...more })
  const scales = (rows: object[], more: object = {}) =>
    ({ kind: 'scales', title: 'rule_scales', x_kind: 'temperature', x_show: '', x_low: 50, x_high: 80, rows, marks: [], pointer: 'read', still: '', ...more }) as unknown as Scales // prettier-ignore
  const left = (selector: string) => document.querySelector<HTMLElement>(selector)?.style.left

  it('say each rule with its number in the person’s unit, and stand the pointer where it was read', () => {
    setUnit('temperature', '°F')
    drawn(<ScalesView picture={scales([row('UK', { said: '≥ 63 °C', at: 65, doubt: 3, state: 'would_meet' })])} />)
    expect(screen.getByRole('img').getAttribute('aria-label')).toMatch(/^UK, ≥ 63 °C, 149 °F/)
    expect(left('.scale-point')).toBe('50%')
    expect(left('.scale-doubt')).toBe('40%')
  })

  it('hold what lies beyond their ends at the end', () => {
    drawn(
      <ScalesView picture={scales([row('UK', { at: 120, stretches: [{ low: 20, high: 60, kind: 'allowed' }] })])} />,
    )
    expect(left('.scale-point')).toBe('100%')
    expect(left('.scale-allowed')).toBe('0%')
  })

  it('have no pointer where nothing was read', () => {
    drawn(<ScalesView picture={scales([row('UK', {})])} />)
    expect(document.querySelector('.scale-point')).toBeNull()
  })
})

describe('the figures of an answer', () => {
  const figure = (more: object) => ({ name: 'core', kind: 'temperature', value: null, main: false, ...more }) as Figure
  const shown = (...figures: Figure[]) => {
    drawn(<Figures figures={figures} family="heat" />)
    return [...document.querySelectorAll('.figure-value')].map((each) => each.textContent)
  }

  it('have their unit, and a time in words', () => {
    expect(
      shown(
        figure({ value: 62.83 }),
        figure({ kind: 'time', value: 5400 }),
        figure({ kind: 'ph', value: 4.2 }),
        figure({ kind: 'number', show: 'log', value: 6.5432 }),
        figure({ kind: 'day', words: '2026-12-03' }),
      ),
    ).toEqual(['62.8 °C', '1 h 30 min', 'pH 4.20', '6.543 log', '3 Dec 2026'])
  })

  it('say nothing as nought: what is not there is said', () => {
    const [none, never] = shown(figure({}), figure({ absent: 'never' }))
    expect(none).not.toMatch(/\d/)
    expect(never).toBe('never')
  })

  it('are the same number in another unit', () => {
    setUnit('temperature', '°F')
    setUnit('length', 'in')
    expect(shown(figure({ value: 60 }), figure({ kind: 'difference', value: 5 }), figure({ kind: 'length', value: 0.0254 }))).toEqual(['140 °F', '9 °F', '1 in']) // prettier-ignore
  })
})

describe('an answer', () => {
  const answer = (more: object = {}) =>
    ({
      state: 'would_fail', sentence: 'The core stays at 58 °C.', reason: '', advisory: 'Consuming raw…', fixes: ['3 h in the bath.'],
      figures: [], pictures: [], tables: [{ title: 'Rows', head: ['At', 'Core'], rows: [['1 h', '55 °C'], ['2 h', '58 °C']] }],
      schools: [{ school: 'By the table', state: 'would_meet', sentence: 'It should meet it.' }],
      workings: [{ title: 'The sum', formula: 'F = t', inputs: [], result: '', assumptions: [], source: { citation: 'FSIS', tag: 'published' } }],
      caution: 'Local codes go before.', ...more,
    }) as unknown as Answer // prettier-ignore

  it('has the verdict and what to do first, then schools, rows and the sum behind it', () => {
    drawn(<AnswerView answer={answer()} family="heat" stale={false} onMove={() => undefined} />)
    const text = document.body.textContent ?? ''
    const order = ['The core stays at 58 °C.', 'Consuming raw', '3 h in the bath.', 'Local codes', 'By the table', '58 °C', 'The sum'] // prettier-ignore
    const places = order.map((each) => text.indexOf(each))
    expect(places.every((place) => place >= 0)).toBe(true)
    expect([...places.slice(0, 5)]).toEqual([...places.slice(0, 5)].sort((a, b) => a - b))
    expect(within(screen.getByRole('table')).getAllByRole('row')).toHaveLength(3)
  })

  it('of an earlier question is shown as such', () => {
    const { container } = drawn(<AnswerView answer={answer()} family="heat" stale onMove={() => undefined} />)
    expect(container.firstElementChild?.className).toContain('stale')
  })

  it('without anything to do has no empty list of it', () => {
    drawn(<AnswerView answer={answer({ fixes: [], schools: [], tables: [] })} family="heat" stale={false} onMove={() => undefined} />) // prettier-ignore
    expect(document.querySelector('.needs')).toBeNull()
    expect(screen.queryByRole('table')).toBeNull()
  })
})
