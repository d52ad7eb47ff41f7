// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { setClock } from '../../shared/clock'
import { setUnit } from '../../shared/units'
import { drawn, server } from '../../testing'
import type { Lane, NextItem } from './api'
import { Lanes } from './Lanes'
import { NextColumn } from './NextColumn'

const NOW = '2026-11-26T09:00:00Z'
const item = (more: object) =>
  ({ batch_id: 'b1', code: 'B-7', kind: 'check', title: 'Core of the thickest', state: 'due', detail: '', step: 'cook', due_at: '2026-11-26T09:20:00Z', check: null, ...more }) as unknown as NextItem // prettier-ignore
const check = (more: object = {}) => ({ id: 'c1', quantity: 'core', what: 'Core of the thickest', expected_low_c: 60, expected_high_c: 65, ...more }) // prettier-ignore

function asked(role: string, manners: object = {}) {
  server({
    'GET /api/v1/session': { person: { id: 'p', name: 'T', role }, manners, now: NOW, zone: 'UTC' },
    'GET /api/v1/reference': {
      quantities: [
        { key: 'core', unit: '°C', kind: 'temperature', decimals: 1, kit: ['probe'] },
        { key: 'looks', unit: '', kind: 'flag', decimals: 0, kit: [] },
      ],
    },
  })
}
beforeEach(() => {
  asked('cook')
  setClock(NOW, 'UTC')
})
beforeEach(
  () =>
  vi.stubGlobal('ResizeObserver', class { observe() {} disconnect() {} }), // prettier-ignore
)
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  setUnit('temperature', '°C')
})

describe('what is next', () => {
  it('is one touch from its pad, with the unit on the key and what is expected', async () => {
    const onLog = vi.fn()
    drawn(<NextColumn items={[item({ check: check() })]} onLog={onLog} />)
    const key = await screen.findByRole('button', { name: 'Log Core of the thickest, °C' })
    expect(key.textContent).toBe('°C')
    fireEvent.click(key)
    expect(onLog).toHaveBeenCalledWith(
      expect.objectContaining({ batchId: 'b1', step: 'cook', quantity: 'core', check: 'c1', expected: [60, 65] }),
    )
    expect(screen.getByText(/B-7 ·.*09:20/)).toBeTruthy()
  })

  it('has the key in °F for who reads °F, and a word where eyes look', async () => {
    asked('cook', { temperature: '°F' })
    const looked = item({ batch_id: 'b2', check: check({ id: 'c2', quantity: 'looks', what: 'Looks' }) })
    drawn(<NextColumn items={[item({ check: check() }), looked]} onLog={vi.fn()} />)
    expect((await screen.findByRole('button', { name: /, °F$/ })).textContent).toBe('°F')
    expect(screen.getByRole('button', { name: 'Log Looks' }).textContent).toBe('Look')
  })

  it('says what it has to show, what it showed last and when it comes again', async () => {
    const one = item({
      state: 'upcoming',
      check: check({ monitoring: 'm' }),
      aim: 'At least [63 °C]',
      last: { value: 62.4, at: '2026-11-26T08:40:00Z' },
    })
    const again = item({
      state: 'upcoming',
      due_at: '2026-11-26T09:50:00Z',
      check: check({ id: 'c2', monitoring: 'm' }),
    })
    drawn(<NextColumn items={[one, again]} onLog={vi.fn()} />)
    expect(await screen.findByText(/last 62.4 °C, 08:40/)).toBeTruthy()
    expect(screen.getByText('B-7 · due 09:20, then 09:50')).toBeTruthy()
    expect(screen.getAllByRole('listitem')).toHaveLength(1)
  })

  it('expects what the plan expects where no limit is read so', async () => {
    drawn(<NextColumn items={[item({ check: check() })]} onLog={vi.fn()} />)
    expect(await screen.findByText(/^expected 60.*–65.* °C$/)).toBeTruthy()
  })

  it('has dates and signatures apart from what a probe reads; what is over stays among what is late', () => {
    const items = [
      item({ kind: 'use', state: 'late', title: 'Discard it' }),
      item({ batch_id: 'b2', kind: 'use', state: 'upcoming', title: 'Use-by today' }),
      item({ batch_id: 'b3', kind: 'review', state: 'review', title: 'Countersign', due_at: null }),
    ]
    drawn(<NextColumn items={items} onLog={vi.fn()} />)
    const [now, apart] = screen.getAllByRole('list')
    expect(within(now as HTMLElement).getAllByRole('listitem')).toHaveLength(1)
    expect(within(apart as HTMLElement).getAllByRole('listitem')).toHaveLength(2)
    expect(screen.getByRole('heading', { name: 'Dates and signatures' })).toBeTruthy()
  })

  it('that is late says by how much, and what is in trouble says what', () => {
    drawn(
      <NextColumn
        items={[
          item({ state: 'late', due_at: '2026-11-26T08:35:00Z', check: check() }),
          item({ batch_id: 'b2', kind: 'trouble', state: 'trouble', title: 'Slurry', detail: 'Will miss 21 °C.', due_at: null }),
        ]}
        onLog={vi.fn()}
      />,
    ) // prettier-ignore
    expect(screen.getByText(/25 min/)).toBeTruthy()
    expect(screen.getByText(/Will miss 21 °C/)).toBeTruthy()
    expect(screen.getByRole('status').textContent).toBe('1 late · 1 problem')
    expect(screen.getAllByRole('link').at(-1)?.getAttribute('href')).toBe('/batches/b2')
  })

  it('is only to be opened by who does not log', async () => {
    cleanup()
    asked('reviewer')
    drawn(<NextColumn items={[item({ check: check() }), item({ batch_id: 'b9', kind: 'review' })]} onLog={vi.fn()} />)
    const links = await screen.findAllByRole('link')
    expect(links.map((each) => each.textContent)).toEqual(['Open', 'Review'])
    expect(screen.queryByRole('button')).toBeNull()
  })

  it('says that nothing is due', () => {
    drawn(<NextColumn items={[]} onLog={vi.fn()} />)
    expect(screen.getByRole('complementary').textContent).toMatch(/Nothing/)
  })
})

describe('the lanes', () => {
  const lane = (more: object = {}) =>
    ({ batch_id: 'b1', code: 'B-7', name: 'Thigh', packs: 6, mass_kg: 7.2, words: '', blocks: [], curves: [], marks: [], checks: [], readings: [], ...more }) as unknown as Lane // prettier-ignore
  const at = (time: string) => Date.parse(`2026-11-26T${time}:00Z`) / 1000
  const draw = (from: string, to: string, ...lanes: Lane[]) =>
    drawn(<Lanes lanes={lanes} fromS={at(from)} toS={at(to)} nowS={at('09:00')} corner={null} />)
  const labels = () => [...document.querySelectorAll<HTMLElement>('.axis-label')]

  it('stand on one clock, with every hour that has room and does not hide the time it is', () => {
    draw('07:00', '13:00', lane())
    expect(labels().map((each) => each.textContent)).toEqual(['07:00', '08:00', '10:00', '11:00', '12:00', '09:00']) // prettier-ignore
    expect(document.querySelector<HTMLElement>('.axis-label.now')?.style.left).toMatch(/^33\.3/)
  })

  it('lead to their batch and say what they hold, for eyes and for ears', () => {
    draw('07:00', '13:00', lane({ words: 'Will miss 21 °C by 10:40.' }))
    const link = screen.getByRole('link')
    expect(link.getAttribute('href')).toBe('/batches/b1')
    expect(within(link).getByText(/7.2 kg/)).toBeTruthy()
    expect(within(link).getAllByText('Will miss 21 °C by 10:40.')[0]?.className).toBe('visually-hidden')
  })

  it('count portions where nothing was weighed', () => {
    draw('07:00', '13:00', lane({ mass_kg: 0 }))
    expect(screen.getByRole('link').textContent).toMatch(/6 portions/)
  })
})
