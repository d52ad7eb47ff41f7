import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { configure, render, renderHook } from '@testing-library/react'
import type { ReactElement, ReactNode } from 'react'
import { MemoryRouter } from 'react-router'
import { vi } from 'vitest'

import './shared/text/i18n'

// a busy machine takes longer over what it shows; nothing waits that long where it is shown
configure({ asyncUtilTimeout: 4_000 })

// what a browser has and the stand-in for it lacks
if (typeof window !== 'undefined')
  window.matchMedia ??= (media) => ({ media, matches: false, addEventListener() {}, removeEventListener() {} }) as never

/** A reply of the made-up server; a function may look at what was asked. */
type Reply = unknown | ((asked: { path: string; method: string; body: unknown; key: string | null }) => unknown)

export class Refusal {
  constructor(
    readonly status: number,
    readonly body: Record<string, unknown>,
  ) {}
}

export interface Asked {
  path: string
  method: string
  body: unknown
  key: string | null
}

/** Stand in for the server: replies by “METHOD /path”, and what was asked of it in order. */
export function server(replies: Record<string, Reply>) {
  const asked: Asked[] = []
  const fetched = vi.fn(async (input: Request) => {
    const { pathname } = new URL(input.url)
    const json = input.headers.get('content-type')?.includes('json') ?? false
    const body: unknown = input.method === 'GET' || !json ? null : JSON.parse((await input.clone().text()) || 'null')
    const one = { path: pathname, method: input.method, body, key: input.headers.get('idempotency-key') }
    asked.push(one)
    const reply = replies[`${input.method} ${pathname}`]
    const found = typeof reply === 'function' ? ((await reply(one)) as unknown) : reply
    if (found instanceof Error) throw found
    if (found instanceof Refusal) return Response.json(found.body, { status: found.status })
    if (found === undefined) return Response.json({ code: 'not_found', sentence: 'Nothing there.' }, { status: 404 })
    return Response.json(found)
  })
  vi.stubGlobal('fetch', fetched)
  return { asked, of: (method: string) => asked.filter((each) => each.method === method) }
}

function Around({ children, at, queries }: { children: ReactNode; at: string; queries: QueryClient }) {
  return (
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[at]}>{children}</MemoryRouter>
    </QueryClientProvider>
  )
}

function around(at: string) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, networkMode: 'always' } } })
  const wrapper = ({ children }: { children: ReactNode }) => (
    <Around at={at} queries={queries}>
      {children}
    </Around>
  )
  return { queries, wrapper }
}

/** Draw a part of a page as it stands in the application. */
export function drawn(element: ReactElement, at = '/') {
  const { queries, wrapper } = around(at)
  return { ...render(element, { wrapper }), queries }
}

/** Run a hook as it runs in the application. */
export function running<Result>(hook: () => Result, at = '/') {
  const { queries, wrapper } = around(at)
  return { ...renderHook(hook, { wrapper }), queries }
}
