import { beforeEach, describe, expect, it, vi } from 'vitest'

import { offered, remember } from './usual'

const kept = new Map<string, string>()
beforeEach(() => {
  kept.clear()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  })
})

describe('what is offered first', () => {
  const probes = [
    { id: 'probe-2', due: false },
    { id: 'probe-3', due: false },
    { id: 'probe-4', due: true },
  ]
  const inDate = (probe: { due: boolean }) => !probe.due

  it('is the first that may be taken while nothing was', () => {
    expect(offered(probes, 'instrument.core', inDate)?.id).toBe('probe-2')
    expect(offered([], 'instrument.core', inDate)).toBeUndefined()
  })

  it('is what was taken last, each quantity by itself', () => {
    remember('instrument.bath', 'probe-3')
    expect(offered(probes, 'instrument.bath', inDate)?.id).toBe('probe-3')
    expect(offered(probes, 'instrument.core', inDate)?.id).toBe('probe-2')
  })

  it('is another where that one may not be taken now, and one all the same where none may', () => {
    remember('instrument.bath', 'probe-4')
    expect(offered(probes, 'instrument.bath', inDate)?.id).toBe('probe-2')
    expect(offered([{ id: 'probe-4', due: true }], 'instrument.bath', inDate)?.id).toBe('probe-4')
  })
})
