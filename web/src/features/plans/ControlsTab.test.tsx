// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { Reference } from '../../shared/reference'
import { drawn, server } from '../../testing'
import type { Control } from './api'
import { ControlsTab } from './ControlsTab'
import type { Draft } from './useDraft'

const limit = (id: string, title: string) => ({ id, kind: 'threshold', title, qualifier: '', source: { citation: `Code ${id}` } }) // prettier-ignore
const RULES = {
  rule_sets: [
    {
      id: 'us',
      entries: [
        { topic: 'cook', school: 'By the table', preferred: true, limit: limit('a', '74 °C at once') },
        { topic: 'cook', school: 'By the approved plan', limit: limit('b', '7 log'), approval: 'Needs the county.' },
        { topic: 'keep', school: 'The code', preferred: true, limit: limit('c', 'at most 5 °C') },
      ],
    },
  ],
} as unknown as Reference
const CONTROL = {
  step: 'cook', hazards: ['salmonella'], limits: [limit('a', '74 °C at once')], departs: '',
  monitoring: [
    { id: 'm', what: 'Core', how: 'with a probe', who: 'cook', quantity: 'core', offsets_s: [0, 600], every_s: 1800,
      expected_low_c: 60, expected_high_c: 65 },
    { id: 'e', what: 'Looks', how: 'by eye', who: 'lead', quantity: 'looks', offsets_s: [], every_s: null,
      expected_low_c: 1, expected_high_c: 1 },
  ],
  corrective_actions: ['Heat on', 'Throw it away'], verification: ['Once a week'],
} as unknown as Control // prettier-ignore

let heard: Control[]
let put: (control: Control) => void
/** The page's draft: what is changed stands, and can be put back from outside, as an undo does. */
function Page({ control = CONTROL }: { control?: Control }) {
  const [now, setNow] = useState(control)
  put = setNow
  const draft = {
    plan: {
      rule_set: 'us', controls: [now], steps: [{ id: 'cook', name: 'Bath' }],
      hazards: [{ key: 'salmonella', name: 'Salmonella' }],
    },
    saved: { titles: {} },
    change: (changed: (plan: object) => { controls: Control[] }) =>
      setNow((before) => {
        const { controls } = changed({ controls: [before] })
        heard.push(controls[0] as Control)
        return controls[0] as Control
      }),
  } as unknown as Draft // prettier-ignore
  return <ControlsTab draft={draft} reference={RULES} />
}

function seen(role = 'lead', control = CONTROL) {
  heard = []
  server({
    'GET /api/v1/session': { person: { id: 'p', name: 'I', role }, manners: {}, now: '2026-11-26T09:00:00Z', zone: 'UTC' },
    'GET /api/v1/reference': { quantities: [{ key: 'core', unit: '°C', kind: 'temperature', decimals: 1 }] },
  }) // prettier-ignore
  drawn(<Page control={control} />)
}
const actions = () => screen.getByLabelText<HTMLTextAreaElement>('Corrective actions, one a line')

beforeEach(() => vi.stubGlobal('scrollTo', vi.fn()))
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('a critical control point', () => {
  it('says its limit with its source, what is watched, how often and by whom', async () => {
    seen()
    expect(screen.getByText('74 °C at once')).toBeTruthy()
    expect(screen.getByText(/Code a/)).toBeTruthy()
    const [core, looks] = within(screen.getByRole('table')).getAllByRole('row').slice(1)
    expect(core?.textContent).toMatch(/Core.*with a probe.*10 min.*30 min/)
    expect(looks?.textContent).toMatch(/Looks.*by eye/)
    expect(await screen.findByText(/60 °C.*65 °C/)).toBeTruthy()
  })

  it('takes another school’s limit, and then asks why and says what that needs', async () => {
    seen()
    const schools = await screen.findByRole('combobox')
    fireEvent.change(schools, { target: { value: 'b' } })
    expect(heard.at(-1)?.limits.map((each) => each.id)).toEqual(['b'])
    expect(screen.getByText('Needs the county.')).toBeTruthy()
    fireEvent.change(screen.getByLabelText(/depart|Why/i), { target: { value: 'File SR-7' } })
    expect(heard.at(-1)?.departs).toBe('File SR-7')
  })

  it('keeps every key of its lines as it is typed, also when nobody leaves the field', async () => {
    seen()
    await screen.findByRole('combobox')
    fireEvent.change(actions(), { target: { value: 'Heat on\nThrow it away\n' } })
    expect(actions().value).toBe('Heat on\nThrow it away\n') // the empty line is still being written
    fireEvent.change(actions(), { target: { value: 'Heat on\nThrow it away\n  Call the lead ' } })
    expect(heard.at(-1)?.corrective_actions).toEqual(['Heat on', 'Throw it away', 'Call the lead'])
    expect(actions().value.endsWith('  Call the lead ')).toBe(true)
  })

  it('shows an undo, and another’s words, at once', async () => {
    seen()
    await screen.findByRole('combobox')
    fireEvent.change(actions(), { target: { value: 'Something else' } })
    const { act } = await import('react')
    act(() => put(CONTROL))
    expect(actions().value).toBe('Heat on\nThrow it away')
    fireEvent.blur(actions())
    expect(heard.at(-1)?.corrective_actions).toEqual(['Something else']) // leaving it writes nothing back
  })

  it('is the lead’s to write: a cook reads it', async () => {
    seen('cook')
    await screen.findByText(/60 °C.*65 °C/)
    expect(screen.queryByRole('combobox')).toBeNull()
    expect(actions().disabled).toBe(true)
  })
})

it('says where there is no critical point yet', () => {
  heard = []
  server({})
  const draft = { plan: { controls: [], steps: [], hazards: [] } } as unknown as Draft
  drawn(<ControlsTab draft={draft} reference={RULES} />)
  expect(document.body.textContent?.length).toBeGreaterThan(10)
})
