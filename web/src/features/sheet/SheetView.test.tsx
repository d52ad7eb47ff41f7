// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { drawn, server } from '../../testing'
import { PhoneSheet } from './PhoneSheet'
import { type Sheet, SheetView } from './SheetView'

type Column = Sheet['columns'][number]
type Row = Sheet['rows'][number]

function column(step: string, more: Partial<Column> = {}): Column {
  return {
    step,
    name: step[0]?.toUpperCase() + step.slice(1),
    length_s: 3600,
    critical: false,
    standing: 'meets',
    curves: [{ quantity: 'core', times_s: [0, 3600], values: [5, 63], basis: 'computed' }],
    exposed: 0,
    limits: [],
    checks: [],
    findings: [],
    goes_in: [],
    line: '',
    takes: [],
    out_of: '',
    ...more,
  } as unknown as Column
}

function row(key: string, columns: readonly Column[], more: Partial<Row> = {}): Row {
  const cells = columns.map((each) => ({
    step: each.step, act: 'none', said: `at ${each.step}`, amount: '', critical: false, open: false, standing: 'none',
  })) // prettier-ignore
  const base = { key, name: key, type: 'biological', reason: '', taken: true, significant: true, balance: '' }
  return { ...base, standing: 'none', cells, ...more } as unknown as Row
}

const COLUMNS = ['receive', 'bath', 'slurry'].map((step) => column(step))
function sheet(columns: Column[] = COLUMNS): Sheet {
  const rows = [row('Salmonella', columns), row('Listeria', columns)]
  return {
    state: 'meets', sentence: '', columns, rows, parts: [], cold_c: 5, hot_c: 60, exposed_by: 'Listeria monocytogenes',
  } as unknown as Sheet // prettier-ignore
}

const card = (each: Column) => ({ main: `main of ${each.step}`, rest: '' })
const scrolled = vi.fn()

beforeEach(() => {
  server({ 'GET /api/v1/reference': { quantities: [] } })
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      disconnect() {}
    },
  )
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, value: 1000 })
  HTMLElement.prototype.scrollTo = scrolled as never
  scrolled.mockClear()
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the sheet', () => {
  it('is walked by arrows, and Enter opens', () => {
    const onOpen = vi.fn()
    drawn(<SheetView sheet={sheet()} card={card} at={null} onOpen={onOpen} label="Plan" />)
    const first = screen.getByRole('button', { name: /main of receive/ })
    first.focus()
    for (const key of ['ArrowRight', 'ArrowRight', 'ArrowRight', 'ArrowLeft', 'ArrowDown'])
      fireEvent.keyDown(document.activeElement as Element, { key })
    expect(document.activeElement?.getAttribute('data-cell')).toBe('1-1') // it stops at the edge
    fireEvent.click(document.activeElement as Element)
    expect(onOpen).toHaveBeenCalledWith('bath:hazard:Salmonella')
  })

  it('moves a step by Alt with an arrow, for who may', () => {
    const onMove = vi.fn()
    const { unmount } = drawn(
      <SheetView sheet={sheet()} card={card} at={null} onOpen={vi.fn()} onMove={onMove} label="Plan" />,
    )
    fireEvent.keyDown(screen.getByRole('button', { name: /main of bath/ }), { key: 'ArrowRight', altKey: true })
    expect(onMove).toHaveBeenCalledWith('bath', 1)
    unmount()
    drawn(<SheetView sheet={sheet()} card={card} at={null} onOpen={vi.fn()} label="Plan" />)
    fireEvent.keyDown(screen.getByRole('button', { name: /main of bath/ }), { key: 'ArrowRight', altKey: true })
    expect(onMove).toHaveBeenCalledTimes(1)
  })

  it('lays a step before the one it is dropped on', () => {
    const onPlace = vi.fn()
    drawn(<SheetView sheet={sheet()} card={card} at={null} onOpen={vi.fn()} onPlace={onPlace} label="Plan" />)
    const data = { setData: vi.fn(), getData: () => 'slurry' }
    fireEvent.drop(screen.getByRole('button', { name: /main of bath/ }), { dataTransfer: data })
    expect(onPlace).toHaveBeenCalledWith('slurry', 'bath')
    fireEvent.drop(screen.getByRole('button', { name: /main of slurry/ }), { dataTransfer: data })
    expect(onPlace).toHaveBeenCalledTimes(1) // onto itself changes nothing
  })

  it('marks what goes wrong, and is red for nothing that only runs', () => {
    const limit = { id: 'l', title: 'Core', sentence: 's', share: null, marks: [], quantity: 'core' }
    const columns = [
      column('receive', { limits: [{ ...limit, room: 'there in 20 min', standing: 'none' }] as never }),
      column('bath', { standing: 'fails', limits: [{ ...limit, room: '3 °C short', standing: 'fails' }] as never }),
    ]
    drawn(<SheetView sheet={sheet(columns)} card={card} at={null} onOpen={vi.fn()} label="Plan" />)
    expect(screen.getByText('there in 20 min').className).not.toContain('hot')
    expect(screen.getByText('3 °C short').className).toContain('hot')
    expect(screen.getByRole('button', { name: /main of bath/ }).className).toContain('fails')
  })

  it('needs no overview where it fits; where it does not, it opens at what goes wrong', () => {
    const { container, unmount } = drawn(
      <SheetView sheet={sheet()} card={card} at={null} onOpen={vi.fn()} label="Plan" />,
    )
    expect(container.querySelector('.sh-overview')).toBeNull()
    unmount()
    const many = Array.from({ length: 30 }, (_, n) => column(`s${n}`, { standing: n === 25 ? 'fails' : 'meets' }))
    const long = drawn(<SheetView sheet={sheet(many)} card={card} at={null} onOpen={vi.fn()} label="Plan" />)
    expect(long.container.querySelector('.sh-overview')).not.toBeNull()
    expect((scrolled.mock.calls.at(-1)?.[0] as { left: number }).left).toBeGreaterThan(1000)
  })

  it('goes to the step in its address before the one that goes wrong', () => {
    const many = Array.from({ length: 30 }, (_, n) => column(`s${n}`, { standing: n === 25 ? 'fails' : 'meets' }))
    drawn(<SheetView sheet={sheet(many)} card={card} at="s1:card" onOpen={vi.fn()} label="Plan" />)
    expect((scrolled.mock.calls.at(-1)?.[0] as { left: number }).left).toBeLessThan(200)
  })
})

describe('on a phone', () => {
  it('a step is a line; the chosen one tells its limits and what happens there', () => {
    const onOpen = vi.fn()
    drawn(<PhoneSheet sheet={sheet()} card={card} at="bath:card" onOpen={onOpen} width={350} />)
    expect(screen.getAllByRole('listitem')).toHaveLength(3)
    const open = screen.getByRole('button', { name: /Bath/, expanded: true })
    const item = open.closest('li') as HTMLElement
    expect(within(item).getByText(/at bath/, { selector: 'dd:nth-of-type(2)' })).toBeTruthy()
    fireEvent.click(within(item).getByRole('button', { name: 'Salmonella' }))
    expect(onOpen).toHaveBeenCalledWith('bath:hazard:Salmonella')
  })

  it('opens by itself at the step that goes wrong', () => {
    const columns = [column('receive'), column('bath', { standing: 'fails' })]
    drawn(<PhoneSheet sheet={sheet(columns)} card={card} at={null} onOpen={vi.fn()} width={350} />)
    expect(screen.getByRole('button', { name: /Bath/, expanded: true })).toBeTruthy()
  })
})
