import { describe, expect, it } from 'vitest'

import { columnWidths, edges, intoView, NARROWEST_PX, pathOf, scaleOf, stepTo, xIn } from './geometry'
import { fitting } from './journeyMarks'

describe('a frame over more columns than it shows', () => {
  const widths = [100, 100, 100, 100]
  it('is moved no further than it has to', () => {
    expect(intoView({ from: 0, wide: 250 }, widths, 1)).toBe(0)
    expect(intoView({ from: 0, wide: 250 }, widths, 3)).toBe(174)
    expect(intoView({ from: 150, wide: 250 }, widths, 1)).toBe(76)
    expect(intoView({ from: 150, wide: 250 }, widths, 0)).toBe(0)
    expect(intoView({ from: 10, wide: 250 }, widths, -1)).toBe(10)
  })
})

describe('columns', () => {
  it('fill the space and give longer steps more of it', () => {
    const widths = columnWidths([900, 36_000, 864_000], 1000)
    expect(Math.abs(widths.reduce((a, b) => a + b, 0) - 1000)).toBeLessThan(3)
    expect(widths[1]).toBeGreaterThan(widths[0] ?? 0)
    expect(widths[2]).toBeGreaterThan(widths[1] ?? 0)
  })
  it('are never too narrow to read, though the sheet grows wider than the space', () => {
    const widths = columnWidths(
      Array.from({ length: 8 }, () => 900),
      300,
    )
    expect(Math.min(...widths)).toBe(NARROWEST_PX)
    const forty = columnWidths(
      Array.from({ length: 40 }, () => 900),
      1000,
    )
    expect(Math.min(...forty)).toBeLessThan(NARROWEST_PX)
  })
  it('stand side by side without a gap', () => {
    const spans = edges([100, 50, 25])
    expect(spans).toEqual([
      { from: 0, to: 100 },
      { from: 100, to: 150 },
      { from: 150, to: 175 },
    ])
    expect(xIn(spans[1] ?? { from: 0, to: 0 }, 30, 60)).toBe(125)
    expect(xIn(spans[1] ?? { from: 0, to: 0 }, 300, 60)).toBe(150)
  })
})

describe('the scale of temperature', () => {
  it('holds everything that is drawn, and freezing', () => {
    const scale = scaleOf([4, 86.2], 20)
    expect(scale).toEqual({ low: 0, high: 100, ticks: [0, 20, 40, 60, 80, 100] })
    expect(scaleOf([-18, 4], 20).low).toBe(-20)
  })
})

describe('a path', () => {
  it('begins at its first point', () => {
    expect(
      pathOf([
        [0, 1],
        [2, 3.25],
      ]),
    ).toBe('M0.0 1.0L2.0 3.3')
  })
})

describe('arrows', () => {
  it('move from cell to cell and stop at the edge', () => {
    expect(stepTo('ArrowRight', 0, 0, 3, 4)).toEqual([0, 1])
    expect(stepTo('ArrowUp', 0, 0, 3, 4)).toBeNull()
    expect(stepTo('End', 2, 1, 3, 4)).toEqual([2, 3])
    expect(stepTo('Enter', 0, 0, 3, 4)).toBeNull()
  })
})

describe('a number in a column', () => {
  it('is said as fully as there is room for, and never cut', () => {
    const ways = ['no credit below 62.8 °C', '62.8 °C']
    expect(fitting(ways, 200)).toBe('no credit below 62.8 °C')
    expect(fitting(ways, 120)).toBe('62.8 °C')
    expect(fitting(ways, 40)).toBe('')
  })
})
