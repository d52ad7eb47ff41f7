/** Where things stand on the sheet: columns side by side, each with its own time, all on one scale of temperature. */

export const HEAD_PX = 164
export const NARROWEST_PX = 100 // six steps stand side by side on a tablet of 800 px
const CROWD = 12 // from so many steps on columns may be narrower
const NARROWEST_CROWDED_PX = 92

export interface Span {
  from: number
  to: number
}

/** How wide each column is [px]: longer steps wider, none too narrow to read; wider than the space where it must be. */
export function columnWidths(lengthsS: readonly number[], spacePx: number): number[] {
  const least = lengthsS.length >= CROWD ? NARROWEST_CROWDED_PX : NARROWEST_PX
  const weights = lengthsS.map((length) => 1 + 0.5 * Math.min(Math.max(Math.log10(Math.max(length, 60) / 900), 0), 2.4))
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  const spare = Math.max(spacePx - least * lengthsS.length, 0)
  return weights.map((weight) => Math.round(least + (spare * weight) / whole))
}

/** The left and right edge of every column [px]. */
export function edges(widths: readonly number[]): Span[] {
  let at = 0
  return widths.map((width) => {
    const span = { from: at, to: at + width }
    at += width
    return span
  })
}

export interface Window {
  from: number
  wide: number
}

const BESIDE_PX = 24

/** How far a frame over the columns is to be moved so that one of them stands in it; no further than it has to. */
export function intoView(seen: Window, widths: readonly number[], index: number): number {
  const span = edges(widths)[index]
  if (!span) return seen.from
  if (span.from < seen.from) return Math.max(span.from - BESIDE_PX, 0)
  return span.to > seen.from + seen.wide ? span.to - seen.wide + BESIDE_PX : seen.from
}

export function xIn(span: Span, seconds: number, lengthS: number): number {
  return span.from + (span.to - span.from) * Math.min(Math.max(seconds / Math.max(lengthS, 1), 0), 1)
}

/** Round temperatures around what is drawn, and the ticks between them. */
export function scaleOf(values: readonly number[], step: number): { low: number; high: number; ticks: number[] } {
  const low = Math.floor(Math.min(0, ...values) / step) * step
  const high = Math.max(Math.ceil((Math.max(...values, step) + step * 0.1) / step) * step, low + 2 * step)
  const ticks = []
  for (let tick = low; tick <= high + 1e-9; tick += step) ticks.push(tick)
  return { low, high, ticks }
}

export function pathOf(points: readonly (readonly [number, number])[]): string {
  return points.map(([x, y], index) => `${index ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')
}

/** Which cell the arrows lead to from a cell, within a grid of so many rows and columns. */
export function stepTo(
  key: string,
  row: number,
  column: number,
  rows: number,
  columns: number,
): [number, number] | null {
  const to: Record<string, [number, number]> = {
    ArrowRight: [row, column + 1],
    ArrowLeft: [row, column - 1],
    ArrowDown: [row + 1, column],
    ArrowUp: [row - 1, column],
    Home: [row, 0],
    End: [row, columns - 1],
  }
  const next = to[key]
  if (!next) return null
  const [r, c] = next
  return r < 0 || r >= rows || c < 0 || c >= columns ? null : next
}
