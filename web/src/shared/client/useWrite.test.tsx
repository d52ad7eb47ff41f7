// @vitest-environment jsdom
import { useQuery } from '@tanstack/react-query'
import { act, cleanup, waitFor } from '@testing-library/react'
import { afterEach, expect, it, vi } from 'vitest'

import { running, server } from '../../testing'
import { answered, client, keyed } from './client'
import { usePaged } from './paged'
import { useWrite } from './useWrite'

const PATH = '/api/v1/bench/kept'

function useBoth() {
  const kept = useQuery({ queryKey: ['kept'], queryFn: () => answered(client.GET(PATH)) })
  const write = useWrite(
    (name: string, key) =>
      answered(client.POST(PATH, { params: { header: keyed(key) }, body: { family: 'heat', name, question: {} } })),
    ['kept'],
  )
  return { kept, write }
}

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
})

it('a write makes old what it touched, and is done once that is asked for anew', async () => {
  const rows: string[] = []
  const house = server({
    [`GET ${PATH}`]: () => ({ items: [...rows], next: null }),
    [`POST ${PATH}`]: ({ body }: { body: unknown }) => {
      rows.push((body as { name: string }).name)
      return { id: '1' }
    },
  })
  const { result } = running(useBoth)
  await waitFor(() => expect(result.current.kept.data?.items).toEqual([]))
  await act(() => result.current.write.mutateAsync('Thigh'))
  expect(house.of('GET')).toHaveLength(2)
  await waitFor(() => expect(result.current.kept.data?.items).toEqual(['Thigh']))
})

it('the same again after a fall carries the same key; after it landed, another', async () => {
  let down = true
  const house = server({
    [`GET ${PATH}`]: { items: [], next: null },
    [`POST ${PATH}`]: () => (down ? new TypeError('gone') : { id: '1' }),
  })
  const { result } = running(useBoth)
  await act(() => result.current.write.mutateAsync('Thigh').catch(() => undefined))
  await waitFor(() => expect(result.current.write.error?.code).toBe('offline'))
  down = false
  await act(() => result.current.write.mutateAsync('Thigh'))
  await act(() => result.current.write.mutateAsync('Thigh'))
  const [first, again, next] = house.of('POST').map((each) => each.key)
  expect(first).toBe(again)
  expect(next).not.toBe(first)
})

it('another entry is another key', async () => {
  const house = server({ [`GET ${PATH}`]: { items: [], next: null }, [`POST ${PATH}`]: () => new TypeError('gone') })
  const { result } = running(useBoth)
  for (const name of ['Thigh', 'Leg']) await act(() => result.current.write.mutateAsync(name).catch(() => undefined))
  const keys = house.of('POST').map((each) => each.key)
  expect(new Set(keys).size).toBe(2)
})

it('a list that grows comes page by page, and keeps what stood while another is looked for', async () => {
  const pages: Record<string, unknown> = { '': { items: [1, 2], next: 'b' }, b: { items: [3], next: null } }
  const { result } = running(() =>
    usePaged(['rows'], (after) => Promise.resolve(pages[after ?? ''] as { items: number[]; next: string | null })),
  )
  await waitFor(() => expect(result.current.rows).toEqual([1, 2]))
  expect(result.current.hasNextPage).toBe(true)
  await act(() => result.current.fetchNextPage())
  await waitFor(() => expect(result.current.rows).toEqual([1, 2, 3]))
  expect(result.current.hasNextPage).toBe(false)
})
