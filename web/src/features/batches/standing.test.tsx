// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { setClock } from '../../shared/clock'
import { drawn, server } from '../../testing'
import type { Batch } from './api'
import { LimitList } from './LimitList'
import { Readings } from './Readings'

const NOW = '2026-11-26T12:00:00Z'
const QUANTITIES = [
  { key: 'core', unit: '°C', kind: 'temperature', decimals: 1, kit: ['probe'] },
  { key: 'ph', unit: 'pH', kind: 'ph', decimals: 2, kit: ['meter'] },
  { key: 'lid', unit: '', kind: 'flag', decimals: 0, kit: [] },
]

function asked(manners: object = {}) {
  server({
    'GET /api/v1/session': { person: { id: 'p', name: 'T', role: 'cook' }, manners, now: NOW, zone: 'UTC' },
    'GET /api/v1/reference': { quantities: QUANTITIES },
    'GET /api/v1/batches/b1/questions': [],
  })
}
beforeEach(() => {
  asked()
  setClock(NOW, 'UTC')
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the readings', () => {
  const row = (reading: string, more: object = {}) => ({
    reading, step: 'cook', step_name: 'Bath', quantity: 'core', value: 62.8, unit: '°C', taken_at: '2026-11-26T09:15:00Z',
    instrument: 'Probe 2', uncertainty: 0.5, by: 'Ama', corrects: null, corrected_by: null, confirmed: false,
    entered_late_s: 0, note: '', ...more,
  }) // prettier-ignore
  const batch = (...readings: object[]) => ({ batch_id: 'b1', code: 'B-7', readings }) as unknown as Batch
  const lines = () => within(screen.getByRole('table')).getAllByRole('row').slice(1) // prettier-ignore

  it('stand newest first, each with its instrument, its doubt and who took it', async () => {
    drawn(<Readings batch={batch(row('a'), row('b', { value: 4.2, quantity: 'ph', unit: 'pH', instrument: 'pH meter', uncertainty: 0.05 }))} onCorrect={undefined} />) // prettier-ignore
    await waitFor(() => expect(lines()[0]?.textContent).toContain('pH 4.2'))
    expect(lines()[0]?.textContent).toContain('pH meter ±0.05 pH')
    expect(lines()[1]?.textContent).toMatch(/09:15.*Bath.*62.8 °C.*Probe 2 ±0.5.*Ama/)
  })

  it('say yes or no where eyes were the instrument, without a doubt', async () => {
    drawn(<Readings batch={batch(row('a', { quantity: 'lid', value: 0, unit: '', instrument: 'by eye', uncertainty: 0 }))} onCorrect={undefined} />) // prettier-ignore
    await waitFor(() => expect(lines()[0]?.querySelector('.value')?.textContent).not.toBe('0'))
    expect(lines()[0]?.textContent).not.toContain('±')
  })

  it('say what was corrected, asked about or written down late, and erase nothing', () => {
    const first = row('a', { corrected_by: 'b' })
    const second = row('b', { corrects: 'a', confirmed: true, entered_late_s: 3600, note: 'The other bag.' })
    drawn(<Readings batch={batch(first, second)} onCorrect={vi.fn()} />)
    expect(lines()).toHaveLength(2)
    expect(lines()[0]?.textContent).toMatch(/1 h.*The other bag/)
    expect(lines()[1]?.className).toBe('replaced')
    expect(within(lines()[1] as HTMLElement).queryByRole('button')).toBeNull() // what was corrected is not corrected again
  })

  it('are corrected in the pad, which knows what it replaces', () => {
    const onCorrect = vi.fn()
    drawn(<Readings batch={batch(row('a'))} onCorrect={onCorrect} />)
    fireEvent.click(screen.getByRole('button'))
    expect(onCorrect.mock.calls[0]?.[0]).toMatchObject({
      batchId: 'b1', step: 'cook', quantity: 'core',
      corrects: { reading: 'a', value: '62.8 °C', time: '09:15', takenAt: '2026-11-26T09:15:00Z' },
    }) // prettier-ignore
  })

  it('are told in °F to who reads °F, their doubt as a difference', async () => {
    asked({ temperature: '°F' })
    drawn(<Readings batch={batch(row('a'))} onCorrect={undefined} />)
    await waitFor(() => expect(screen.queryByText('62.8 °C')).toBeTruthy())
    cleanup()
    const { useSession } = await import('../../shared/session')
    function Page() {
      useSession()
      return <Readings batch={batch(row('a'))} onCorrect={undefined} />
    }
    drawn(<Page />)
    await waitFor(() => expect(lines()[0]?.textContent).toContain('145.0 °F'))
    expect(lines()[0]?.textContent).toContain('±0.9 °F')
  })

  it('that are none are said to be none', () => {
    drawn(<Readings batch={batch()} onCorrect={undefined} />)
    expect(screen.queryByRole('table')).toBeNull()
  })
})

describe('the limits of a batch', () => {
  const working = (title: string) => ({ title, formula: '', inputs: [], result: '', assumptions: [], source: { citation: 'Food Code', tag: 'published' } }) // prettier-ignore
  const verdict = (state: string, sentence: string, more: object = {}) => ({
    state, sentence, value: null, limit_value: null, advice: [], working: working('The verdict'), ...more,
  }) // prettier-ignore
  const status = (more: object = {}) => ({
    step: 'chill', step_name: 'Slurry', title: '57 to 21 °C within 2 h', forecast: null,
    limit: { id: 'c', kind: 'cooling', stages: [{ to_c: 21 }, { to_c: 5 }] },
    verdict: verdict('pending', 'Not yet.'), ...more,
  }) // prettier-ignore
  const drawnWith = (...limits: object[]) => {
    drawn(
      <LimitList
        batch={
          {
            batch_id: 'b1',
            limits,
            plan: { steps: [] },
            blocks: [],
            running: [],
            readings: [],
            traces: [],
            deviations: [],
          } as unknown as Batch
        }
      />,
    )
    return screen.getAllByRole('listitem')
  }

  it('say verdict and advice, and while they are open what is coming', () => {
    const forecast = { misses: true, sentence: 'Will miss 21 °C by 20 min.', working: working('The way') }
    const [coming] = drawnWith(status({ forecast }))
    expect(coming?.textContent).toMatch(/Slurry: 57 to 21 °C within 2 h.*Not yet. Will miss 21 °C by 20 min/)
  })

  it('that are met or not begun are folded away, and what stands on top of the page is not told again', () => {
    const limits = [
      status({ step: 'slurry', verdict: verdict('fail', 'Broken at 12:00.') }),
      status({ step: 'bath', verdict: verdict('pass', 'Met at 11:00.') }),
      status({ step: 'fridge', verdict: verdict('pending', 'No reading yet.') }),
      status({ step: 'receive', verdict: verdict('not_measured', 'Passed over.') }),
    ]
    const batch = {
      batch_id: 'b1', running: ['slurry'], readings: [], traces: [], limits,
      plan: { steps: ['receive', 'bath', 'slurry', 'fridge'].map((id) => ({ id })) },
      blocks: ['slurry', 'bath'].map((step) => ({ step, started: true })),
      deviations: [{ step: 'slurry', limit: limits[0]?.limit.id }],
    } // prettier-ignore
    drawn(<LimitList batch={batch as unknown as Batch} />)
    const folds = screen.getAllByRole('group').map((fold) => fold.querySelector('summary')?.textContent)
    expect(folds).toEqual(['Met 1', 'Not begun 1'])
    expect(screen.queryByText('Broken at 12:00.')).toBeNull()
    expect(screen.getByText('Met at 11:00.').closest('details')).toBeTruthy()
    expect(screen.getByText('Passed over.').closest('details')).toBeNull()
  })

  it('that were broken say what to do, and no forecast any more', () => {
    const broke = verdict('fail', '40 °C after 2 h.', { value: 40, advice: ['Throw it away.'] })
    const [broken] = drawnWith(status({ verdict: broke, forecast: { misses: true, sentence: 'Will miss.', working: working('W') } })) // prettier-ignore
    expect(broken?.textContent).toContain('Throw it away.')
    expect(broken?.textContent).not.toContain('Will miss.')
  })

  const band = (line: Element | undefined) => {
    const drawn = line?.querySelector('.scale-band')
    return [Number(drawn?.getAttribute('x1')), Number(drawn?.getAttribute('x2'))]
  }

  it.each([
    ['at_most', 5, [4, expect.closeTo(90.9, 0)]],
    ['at_least', 63, [expect.closeTo(54.7, 0), 156]],
  ])('%s %i °C have what is allowed on their own side', (comparison, value, allowed) => {
    const cold = { id: 'x', kind: 'threshold', unit: '°C', comparison, value, stages: [] }
    const [line] = drawnWith(status({ limit: cold, verdict: verdict('pass', 'Met.', { value }) }))
    expect(band(line)).toEqual(allowed)
  })

  it.each(['hold', 'freezing', 'looked'])('of %s have what is enough above them', (kind) => {
    const [line] = drawnWith(
      status({
        limit: { id: 'x', kind, stages: [] },
        verdict: verdict('pass', 'Met.', { value: 75, limit_value: 74 }),
      }),
    )
    expect(band(line)).toEqual([expect.closeTo(80, 0), 156])
  })

  it('at least so much salt have what is allowed above it', () => {
    const salt = { id: 'x', kind: 'threshold', unit: '%', comparison: 'at_least', value: 3.5, stages: [] }
    const [line] = drawnWith(status({ limit: salt, verdict: verdict('fail', 'Too little.', { value: 2, limit_value: 3.5 }) })) // prettier-ignore
    expect(band(line)).toEqual([expect.closeTo(80, 0), 156])
  })

  it.each([
    [{ kind: 'lethality' }, { value: 40, limit_value: 30 }, 1],
    [{ kind: 'threshold', unit: '°C', value: 5 }, { value: 4 }, 1],
    [{ kind: 'threshold', unit: 'd', value: 7 }, { value: 3, limit_value: 7 }, 1],
    [{ kind: 'threshold', unit: 'pH', value: 4.6 }, {}, 0], // nothing was read and nothing is drawn
  ])('of %j draw %j on a scale', (limit, read, scales) => {
    const [line] = drawnWith(status({ limit: { id: 'x', stages: [], ...limit }, verdict: verdict('pass', 'Met.', read) })) // prettier-ignore
    expect(line?.querySelectorAll('svg[role=img]').length).toBe(scales)
  })
})
