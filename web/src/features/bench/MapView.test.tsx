// @vitest-environment jsdom
import { cleanup, createEvent, fireEvent, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { setUnit } from '../../shared/units'
import { drawn } from '../../testing'
import type { Picture } from './api'
import { spans } from './mapGeometry'
import { MapView } from './MapView'

type MapPicture = Extract<Picture, { kind: 'map' }>
const X = [0.01, 0.02, 0.03, 0.04, 0.05]
const Y = [56, 58, 60, 62]
const PICTURE = {
  kind: 'map', title: 'safe_time', x_field: 'thickness_m', x_kind: 'length', x_show: 'mm', y_field: 'surroundings_c',
  y_kind: 'temperature', y_show: '', x: X, y: Y, at_x: 0.03, at_y: 60, at_s: 3180, steps: [3600, 7200],
  cells: Y.map((y) => X.map((x) => (y < 57 ? null : 100_000 * x))), // 1000, 2000 … 5000 s; never at 56 °C
} as unknown as MapPicture // prettier-ignore

const onMove = vi.fn()
function map(more: Partial<MapPicture> = {}) {
  drawn(<MapView picture={{ ...PICTURE, ...more }} family="heat" onMove={onMove} />)
  return screen.getByRole('img')
}
const said = () => document.querySelector('.chart-words')?.textContent
const moved = () => onMove.mock.calls.at(-1)?.[0] as Record<string, number>

beforeEach(() => onMove.mockClear())
afterEach(() => {
  cleanup()
  setUnit('temperature', '°C')
  setUnit('length', 'mm')
})

describe('a map of times', () => {
  it('says where the question stands, in the person’s units', () => {
    map()
    expect(said()).toBe('30 mm, 60 °C: 53 min') // just there, not the cell's own
    cleanup()
    setUnit('temperature', '°F')
    setUnit('length', 'in')
    map()
    expect(said()).toBe('1.2 in, 140 °F: 53 min')
  })

  it('says never where no time is enough, and draws it apart from the slowest', () => {
    map({ at_y: 56, at_s: null })
    expect(said()).toContain('never')
    expect(document.querySelectorAll('g rect.map-never')).toHaveLength(X.length)
    expect(document.querySelectorAll('g rect.map-band-0')).toHaveLength(9) // 1000, 2000, 3000 s in three baths
    expect(document.querySelectorAll('g rect.map-band-1')).toHaveLength(6) // 4000, 5000 s
  })

  it('draws each cell round the point it was worked out for', () => {
    expect(spans(5, 100)).toEqual([
      { from: 0, to: 12.5 },
      { from: 12.5, to: 37.5 },
      { from: 37.5, to: 62.5 },
      { from: 62.5, to: 87.5 },
      { from: 87.5, to: 100 },
    ])
    expect(spans(1, 100)).toEqual([{ from: 0, to: 100 }])
  })

  it('moves by keys a fortieth of its span, and not past its edge', () => {
    const drawing = map()
    fireEvent.keyDown(drawing, { key: 'ArrowRight' })
    expect(moved()).toEqual({ thickness_m: 0.031, surroundings_c: 60 })
    fireEvent.keyDown(drawing, { key: 'ArrowUp' })
    expect(moved()?.surroundings_c).toBeCloseTo(60.15, 1)
    cleanup()
    fireEvent.keyDown(map({ at_x: 0.05, at_y: 62 }), { key: 'ArrowRight' })
    expect(moved()).toEqual({ thickness_m: 0.05, surroundings_c: 62 })
  })

  it('leaves every other key to the page', () => {
    const drawing = map()
    const tab = createEvent.keyDown(drawing, { key: 'Tab' })
    fireEvent(drawing, tab)
    expect(tab.defaultPrevented).toBe(false)
    expect(onMove).not.toHaveBeenCalled()
  })

  it('goes where it is touched, and follows a finger that is down', () => {
    const drawing = map()
    drawing.getBoundingClientRect = () => ({ left: 0, top: 0, width: 632, height: 354 }) as DOMRect
    const touch = (what: string, x: number, y: number, buttons = 1) =>
      fireEvent(drawing, new MouseEvent(what, { bubbles: true, clientX: x, clientY: y, buttons }))
    touch('pointerdown', 62, 10) // its upper left corner
    expect(moved()).toEqual({ thickness_m: 0.01, surroundings_c: 62 })
    touch('pointermove', 622, 310)
    expect(moved()).toEqual({ thickness_m: 0.05, surroundings_c: 56 })
    touch('pointermove', -50, 900) // past its edge
    expect(moved()).toEqual({ thickness_m: 0.01, surroundings_c: 56 })
    onMove.mockClear()
    touch('pointermove', 300, 100, 0) // only passing over
    expect(onMove).not.toHaveBeenCalled()
  })

  it('marks round numbers in the unit that is read', () => {
    setUnit('temperature', '°F')
    map()
    const labels = [...document.querySelectorAll('.map-text')].map((each) => each.textContent)
    expect(labels).toContain('140 °F')
    expect(labels).toContain('20 mm')
    expect(labels.some((each) => /\.\d\d/.test(each ?? ''))).toBe(false)
  })
})
