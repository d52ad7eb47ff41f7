// @vitest-environment jsdom
import { act, cleanup } from '@testing-library/react'
import { useLocation, useNavigate } from 'react-router'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { running } from '../../testing'
import type { Family } from './api'
import { useQuestion } from './useQuestion'

const FAMILY = {
  key: 'heat',
  fields: [
    { name: 'thickness_m', kind: 'length' },
    { name: 'surroundings_c', kind: 'temperature' },
    { name: 'medium', kind: 'choice' },
  ],
  presets: [
    { key: 'thigh', words: 'Thigh', question: { thickness_m: 0.03, surroundings_c: 63, medium: 'bath' } },
    { key: 'rib', words: 'Rib', question: { thickness_m: 0.06, surroundings_c: 70, medium: 'bath' } },
  ],
} as unknown as Family

function asked(at = '/bench/heat') {
  return running(() => ({ ...useQuestion(FAMILY), place: useLocation(), go: useNavigate() }), at)
}
const wait = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms))

beforeEach(() => void vi.useFakeTimers())
afterEach(() => {
  cleanup()
  vi.useRealTimers()
})

describe('a question', () => {
  it('begins as its first preset asks, or as the address says', () => {
    expect(asked().result.current.question).toEqual(FAMILY.presets[0]?.question)
    const linked = asked('/bench/heat?p=2&thickness_m=0.05').result.current
    expect(linked.preset).toBe(1)
    expect(linked.question).toMatchObject({ thickness_m: 0.05, surroundings_c: 70 })
  })

  it('leaves out of the address what is no number, and what no field bears', () => {
    expect(asked('/bench/heat?thickness_m=thick&colour=1').result.current.question).toEqual(FAMILY.presets[0]?.question)
  })

  it('is settled after a moment, not at every key, and then stands in the address', async () => {
    const { result } = asked()
    act(() => result.current.change({ thickness_m: 0.031 }))
    act(() => result.current.change({ thickness_m: 0.032 }))
    expect(result.current.settled).toMatchObject({ thickness_m: 0.03 })
    await wait(200)
    expect(result.current.settled).toMatchObject({ thickness_m: 0.032 })
    expect(result.current.place.search).toBe('?thickness_m=0.032')
  })

  it('is never read back over what was typed since it was written', async () => {
    const { result } = asked()
    act(() => result.current.change({ thickness_m: 0.04 }))
    await wait(150)
    act(() => result.current.change({ thickness_m: 0.041 }))
    await wait(1)
    expect(result.current.question).toMatchObject({ thickness_m: 0.041 })
    await wait(200)
    expect(result.current.place.search).toBe('?thickness_m=0.041')
  })

  it('is taken over from an address that somebody else wrote', async () => {
    const { result } = asked()
    await act(async () => result.current.go('/bench/heat?surroundings_c=58'))
    await wait(0)
    expect(result.current.question).toMatchObject({ surroundings_c: 58, thickness_m: 0.03 })
    expect(result.current.settled).toMatchObject({ surroundings_c: 58 })
  })

  it('begins anew from another preset', async () => {
    const { result } = asked()
    act(() => result.current.change({ thickness_m: 0.09 }))
    act(() => result.current.choose(1))
    expect(result.current.question).toEqual(FAMILY.presets[1]?.question)
    await wait(200)
    expect(result.current.place.search).toBe('?p=2')
  })
})
