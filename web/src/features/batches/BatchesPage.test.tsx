// @vitest-environment jsdom
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'
import { Route, Routes, useLocation } from 'react-router'

import { drawn, server } from '../../testing'
import { BatchesPage } from './BatchesPage'

const row = (n: number, state = 'running') => ({
  batch_id: `b${n}`, code: `B-${n}`, plan_name: 'Thigh', packs: 6, mass_kg: 7.2, started_at: '2026-11-26T08:00:00Z',
  current: 'Bath', state, waits_for: 'Begin Slurry', open_deviations: 0, gone_by: null,
}) // prettier-ignore

/** A server that has so many batches and gives sixty at a time. */
function kitchen(count: number) {
  const urls: URLSearchParams[] = []
  const all = Array.from({ length: count }, (_, n) => row(count - n))
  server({
    'GET /api/v1/session': {
      person: { id: 'p', name: 'T', role: 'cook' },
      manners: {},
      now: '2026-11-26T09:00:00Z',
      zone: 'UTC',
    },
  })
  const other = globalThis.fetch
  vi.stubGlobal('fetch', async (input: Request) => {
    const url = new URL(input.url)
    if (url.pathname !== '/api/v1/batches') return other(input)
    urls.push(url.searchParams)
    const find = url.searchParams.get('find') ?? ''
    const found = all.filter((each) => each.code.includes(find))
    const after = found.findIndex((each) => each.batch_id === url.searchParams.get('after')) + 1
    const items = found.slice(after, after + 60)
    return Response.json({ items, next: after + 60 < found.length ? items.at(-1)?.batch_id : null })
  })
  return urls
}

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('shows the newest, and more when asked', async () => {
  const urls = kitchen(70)
  drawn(<BatchesPage />)
  await screen.findByText('B-70')
  expect(screen.queryByText('B-10')).toBeNull()
  fireEvent.click(screen.getByRole('button', { name: 'Show more' }))
  await screen.findByText('B-10')
  expect(urls.at(-1)?.get('after')).toBe('b11')
  await waitFor(() => expect(screen.queryByRole('button', { name: 'Show more' })).toBeNull())
})

it('has the server look for words, so that what is far back is found too', async () => {
  kitchen(70)
  drawn(<BatchesPage />)
  await screen.findByText('B-70')
  fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'B-3' } })
  await screen.findByText('B-3')
  await waitFor(() => expect(screen.queryByText('B-70')).toBeNull())
})

it('says that nothing is there, and that nothing was found', async () => {
  kitchen(0)
  const { unmount } = drawn(<BatchesPage />)
  await screen.findByText(/No batch/)
  unmount()
  kitchen(3)
  drawn(<BatchesPage />, '/batches?find=B-9')
  await screen.findByText('No matches.')
})

it.each([
  ['B-3', '/batches/b3'], // of several that begin so, the code itself
  ['https://pass.kitchen:8717/batches/0b-7f', '/batches/0b-7f'], // what a label's code says
])('opens what a code reader types and ends with Enter: %s', async (typed, place) => {
  kitchen(70)
  const Where = () => <p>{useLocation().pathname}</p>
  drawn(
    <Routes>
      <Route path="/batches" element={<BatchesPage />} />
      <Route path="*" element={<Where />} />
    </Routes>,
    '/batches',
  )
  await screen.findByText('B-70')
  fireEvent.change(screen.getByRole('searchbox'), { target: { value: typed } })
  fireEvent.keyDown(screen.getByRole('searchbox'), { key: 'Enter' })
  expect(await screen.findByText(place)).toBeTruthy()
})
