import { describe, expect, it } from 'vitest'

import { answered, EntryKey, keyed, Problem, problemFrom } from './client'

const reply = (status: number) => new Response(null, { status })

describe('the key of an entry', () => {
  it('stays while the entry is the same, so that a retry lands once', () => {
    const key = new EntryKey()
    const first = key.for({ value: 62.6 })
    expect(key.for({ value: 62.6 })).toBe(first)
    expect(keyed(first)).toEqual({ 'Idempotency-Key': first })
    expect(first.length).toBeGreaterThanOrEqual(8)
  })

  it('changes with the entry', () => {
    const key = new EntryKey()
    expect(key.for({ value: 62.6 })).not.toBe(key.for({ value: 62.7 }))
  })

  it('is new for the same entry once the last one landed', () => {
    const key = new EntryKey()
    const first = key.for({ value: 62.6 })
    key.done()
    expect(key.for({ value: 62.6 })).not.toBe(first)
  })
})

describe('answers', () => {
  it('give their data', async () => {
    await expect(answered(Promise.resolve({ data: 7, response: reply(200) }))).resolves.toBe(7)
  })

  it('throw the server’s own sentence', async () => {
    const error = { code: 'ask_first', sentence: 'Is it right?', fields: { reason: 'far' } }
    await expect(answered(Promise.resolve({ error, response: reply(409) }))).rejects.toMatchObject({
      status: 409,
      code: 'ask_first',
      message: 'Is it right?',
      fields: { reason: 'far' },
    })
  })

  it('say when the server is gone', async () => {
    await expect(answered(Promise.reject(new TypeError('fetch failed')))).rejects.toMatchObject({ code: 'offline' })
  })

  it.each([502, 503, 504])('take a bare %d for a server that is gone', (status) => {
    expect(problemFrom(status, undefined)).toMatchObject({ code: 'offline', status })
  })

  it('keep what cannot be read as what it is', () => {
    expect(problemFrom(404, '<html>')).toBeInstanceOf(Problem)
    expect(problemFrom(404, '<html>').code).toBe('http')
  })
})
