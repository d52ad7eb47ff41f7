import { beforeEach, describe, expect, it, vi } from 'vitest'

import { Problem } from './client/client'
import { confirm, putAside, read, sendAll, takeOut, waiting, type Waiting } from './outbox'

const kept = new Map<string, string>()
vi.stubGlobal('localStorage', {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
})

function reading(key: string): Waiting {
  const body = {
    step: 'cook',
    quantity: 'bath' as const,
    value: 62.6,
    unit: '°C',
    taken_at: '2026-11-17T08:00:00Z',
    instrument: 'probe-2',
    check: '',
    confirmed: false,
    corrects: null,
    note: '',
    taken_by: 'ama',
  }
  return {
    key, batchId: 'b', batchCode: 'B-101', text: 'Bath: 62.6 °C', path: '/api/v1/batches/b/readings', body,
    person: { id: 'ama', name: 'Ama' }, kitchen: 'home',
  } // prettier-ignore
}

const AMA = { id: 'ama', kitchen: 'home' }

describe('readings that wait', () => {
  beforeEach(() => kept.clear())

  it('are sent once each, the oldest first', async () => {
    putAside(reading('one'))
    putAside(reading('two'))
    putAside(reading('one'))
    const sent: string[] = []
    expect(await sendAll(AMA, async (entry) => sent.push(entry.key))).toBe(2)
    expect(sent).toEqual(['two', 'one'])
    expect(read(waiting())).toEqual([])
  })

  it('stay while the server is away or the session has run out', async () => {
    putAside(reading('one'))
    for (const problem of [
      new Problem(0, 'offline', ''),
      new Problem(503, 'store_down', 'x'),
      new Problem(401, 'sign_in_needed', 'x'),
      new Problem(409, 'refused', 'x', { reason: 'taker' }), // somebody else is signed in by now: it waits for Ama
    ]) {
      expect(await sendAll(AMA, () => Promise.reject(problem))).toBe(0)
      expect(read(waiting())).toHaveLength(1)
      expect(read(waiting())[0]?.refusal).toBeUndefined()
    }
  })

  it('keep the sentence of a refusal, and are not sent again unasked', async () => {
    putAside(reading('one'))
    putAside(reading('two'))
    const refuse = vi.fn((entry: Waiting) =>
      entry.key === 'one' ? Promise.reject(new Problem(409, 'ask_first', 'Log it?')) : Promise.resolve(),
    )
    expect(await sendAll(AMA, refuse)).toBe(1)
    expect(read(waiting()).map((each) => each.refusal)).toEqual(['Log it?'])
    expect(await sendAll(AMA, refuse)).toBe(0)
    expect(refuse).toHaveBeenCalledTimes(2)
    takeOut('one')
    expect(read(waiting())).toEqual([])
  })

  it('are asked about rather than refused, and go all the same under another key', async () => {
    putAside(reading('one'))
    const sent: Waiting[] = []
    const ask = (entry: Waiting) => {
      sent.push(entry)
      return 'confirmed' in entry.body && entry.body.confirmed
        ? Promise.resolve()
        : Promise.reject(new Problem(409, 'ask_first', 'Log it?'))
    }
    await sendAll(AMA, ask)
    const [asked] = read(waiting())
    expect(asked).toMatchObject({ asked: true, refusal: 'Log it?' })
    confirm(asked!)
    expect(await sendAll(AMA, ask)).toBe(1)
    expect(new Set(sent.map((entry) => entry.key)).size).toBe(2)
    expect(read(waiting())).toEqual([])
  })

  it('are read as older tablets kept them', () => {
    kept.set(
      'brinefrost.outbox',
      JSON.stringify([{ ...reading('old'), path: undefined, text: undefined, what: 'Bath' }]),
    )
    expect(read(waiting())[0]).toMatchObject({ text: 'Bath: 62.6 °C', path: '/api/v1/batches/b/readings' })
  })

  it('go out one round at a time', async () => {
    putAside(reading('one'))
    let calls = 0
    const slow = () => new Promise<void>((done) => setTimeout(done, 5, (calls += 1)))
    await Promise.all([sendAll(AMA, slow), sendAll(AMA, slow)])
    expect(calls).toBe(1)
  })

  it('survive what is not theirs', () => {
    expect(read('{"a": 1}')).toEqual([])
    expect(read('nonsense')).toEqual([])
  })

  it('go out under whoever took them, in their kitchen, and wait for them otherwise', async () => {
    putAside(reading('mine'))
    putAside({ ...reading('theirs'), person: { id: 'tomasz', name: 'Tomasz' } })
    putAside({ ...reading('elsewhere'), kitchen: 'annex' })
    const nobodys = reading('old')
    delete nobodys.person
    putAside(nobodys)
    const sent: string[] = []
    expect(await sendAll(null, async (entry) => sent.push(entry.key))).toBe(0)
    expect(await sendAll(AMA, async (entry) => sent.push(entry.key))).toBe(1)
    expect(sent).toEqual(['mine'])
    expect(read(waiting()).map((each) => each.key)).toEqual(['theirs', 'elsewhere', 'old'])
    expect(read(waiting()).some((each) => each.refusal)).toBe(false)
  })
})
