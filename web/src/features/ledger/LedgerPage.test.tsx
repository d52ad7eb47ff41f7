// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'

import { drawn, server } from '../../testing'
import { LedgerPage } from './LedgerPage'

const record = (seq: number, subject: string, words = 'Core 62.8 °C.') => ({
  seq, kind: 'reading_logged', kind_name: 'reading logged', subject, subject_name: `Subject ${seq}`, words, actor: 'Ama', recorded_at: '2026-11-26T09:00:00Z',
}) // prettier-ignore
const SESSION = { person: { id: 'p', name: 'I', role: 'lead' }, manners: {}, now: '2026-11-26T09:30:00Z', zone: 'UTC' }

function ledger(integrity: object, items = [record(3, 'batch:b1'), record(2, 'plan:p1'), record(1, 'kitchen')]) {
  const finds: (string | null)[] = []
  const asked: string[] = []
  server({
    'GET /api/v1/session': SESSION,
    'GET /api/v1/ledger/integrity': integrity,
    'GET /api/v1/people': [{ id: 'ama', name: 'Ama' }],
    'GET /api/v1/instruments': [],
    'GET /api/v1/plans': { items: [{ plan_id: 'p1', name: 'Pork loin' }], next: null },
  })
  const other = globalThis.fetch
  vi.stubGlobal('fetch', async (input: Request) => {
    const url = new URL(input.url)
    if (url.pathname !== '/api/v1/ledger') return other(input)
    finds.push(url.searchParams.get('find'))
    asked.push(url.search)
    const find = url.searchParams.get('find') ?? ''
    return Response.json({ items: items.filter((each) => each.words.includes(find)), next: null })
  })
  drawn(<LedgerPage />)
  return { finds, asked }
}

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

describe('the ledger', () => {
  it('says what was written by whom, and leads to what it is about', async () => {
    ledger({})
    await screen.findByText('Subject 3')
    const places = ['Subject 3', 'Subject 2', 'Subject 1'].map((name) => screen.getByText(name).getAttribute('href'))
    expect(places).toEqual(['/batches/b1', '/plans/p1', '/household'])
    expect(screen.getAllByText('reading logged')).toHaveLength(3)
  })

  it('has the server look for words', async () => {
    const { finds } = ledger({}, [record(2, 'batch:b1', 'Core 62.8 °C.'), record(1, 'batch:b1', 'It was thrown away.')])
    await screen.findByText('It was thrown away.')
    fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'thrown' } })
    await waitFor(() => expect(screen.queryByText('Core 62.8 °C.')).toBeNull())
    expect(finds).toContain('thrown')
    fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'nowhere' } })
    expect(await screen.findByText('No matching records.')).toBeTruthy()
  })

  it('is narrowed to days, a person, a dish; what fits is one PDF', async () => {
    const { asked } = ledger({})
    await screen.findByText('Subject 3')
    fireEvent.change(screen.getByLabelText('From'), { target: { value: '2026-11-01' } })
    await screen.findByRole('option', { name: 'Pork loin', hidden: true })
    fireEvent.change(screen.getByLabelText('Dish'), { target: { value: 'p1' } })
    await waitFor(() => expect(asked.at(-1)).toContain('since=2026-11-01&plan=p1'))
    const link = screen.getByText('These batches as one PDF').getAttribute('href')
    expect(link).toBe('/api/v1/ledger/register.pdf?since=2026-11-01&plan=p1')
  })

  it('walks the chain when asked, and not before', async () => {
    ledger({ holds: true, sentence: 'Three records.', head: 'abc123', broken: [] })
    await screen.findByText('Subject 3')
    expect(screen.queryByText('The chain holds')).toBeNull()
    fireEvent.click(screen.getByRole('button', { name: 'Check the whole chain' }))
    expect(await screen.findByText('The chain holds')).toBeTruthy()
    expect(screen.getByText(/abc123/)).toBeTruthy()
  })

  it('shows where it does not hold, in words and on the line', async () => {
    const broken = [{ seq: 2, kind: 'plan_signed', sentence: 'Its content was changed.' }]
    ledger({ holds: false, sentence: 'One record is wrong.', head: 'abc', broken })
    await screen.findByText('Subject 3')
    fireEvent.click(screen.getByRole('button', { name: 'Check the whole chain' }))
    expect(await screen.findByText('The chain does not hold')).toBeTruthy()
    expect(screen.getByText(/Record 2, plan_signed: Its content was changed/)).toBeTruthy()
    expect(document.querySelectorAll('.ledger-line.broken')).toHaveLength(1)
  })
})
