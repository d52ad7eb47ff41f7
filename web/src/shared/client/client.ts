import createClient from 'openapi-fetch'

import { languageNow } from '../text/i18n'
import { kitchenWord } from './kitchen'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']

/** What the server says when it refuses, or what we say when it is gone. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    sentence: string,
    readonly fields: Record<string, unknown> = {},
  ) {
    super(sentence)
  }
}

const here = typeof location === 'undefined' ? '/' : location.origin
const LONGEST_MS = 20_000 // for an answer to a question: a network that swallows it is no network

/** A question that nothing answers is given up; a write is waited for, since it may land all the same. */
function send(request: Request): Promise<Response> {
  if (request.method !== 'GET') return globalThis.fetch(request)
  const signal = AbortSignal.any([request.signal, AbortSignal.timeout(LONGEST_MS)])
  return globalThis.fetch(new Request(request, { signal }))
}

export const client = createClient<paths>({ baseUrl: here, fetch: send })

// the tablet's language, until the server knows who asks
client.use({
  onRequest({ request }) {
    request.headers.set('Brinefrost-Language', languageNow())
    if (kitchenWord()) request.headers.set('Brinefrost-Kitchen', kitchenWord())
    return request
  },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Await an answer; throw a Problem when it is a refusal or when nothing came back. */
export async function answered<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new Problem(0, 'offline', '')
  }
  if (answer.response.ok && answer.data !== undefined) return answer.data
  throw problemFrom(answer.response.status, answer.error)
}

export function problemFrom(status: number, body: unknown): Problem {
  const said = body as { code?: string; sentence?: string; fields?: Record<string, unknown> } | undefined
  if (said?.code) return new Problem(status, said.code, said.sentence ?? '', said.fields)
  return new Problem(status, status >= 500 || status === 0 ? 'offline' : 'http', '')
}

/** One key for one entry: a second try with the same content carries the same key, so it lands once. */
export class EntryKey {
  private content = ''
  private key = ''

  for(entry: unknown): string {
    const content = JSON.stringify(entry)
    if (content !== this.content || !this.key) {
      this.content = content
      this.key = crypto.randomUUID()
    }
    return this.key
  }

  done(): void {
    this.key = ''
  }
}

export function keyed(key: string): { 'Idempotency-Key': string } {
  return { 'Idempotency-Key': key }
}
