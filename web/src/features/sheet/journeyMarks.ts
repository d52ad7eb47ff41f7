import type { Schemas } from '../../shared/client/client'
import { lengthOf } from '../../shared/clock'
import { valueOf } from '../../shared/quantities'
import { scaleOf, type Span } from './geometry'

export type Column = Schemas['SheetColumn']
export type Curve = Column['curves'][number]

export const PAD = 12
const LETTER_PX = 6.4
const TEMPERATURES = new Set(['core', 'air', 'bath', 'surface'])

/** The temperatures a sheet's journey is drawn over, in the unit it is read in, and where each lies from the top. */
export function coreScale(sheet: Schemas['Sheet'], toShown: (celsius: number) => number, step: number, height: number) {
  const cores = sheet.columns.flatMap((column) =>
    column.curves.filter((curve) => curve.quantity === 'core').flatMap((curve) => curve.values.map(toShown)),
  )
  const { low, high, ticks } = scaleOf([...cores, toShown(sheet.cold_c), toShown(sheet.hot_c)], step)
  const yShown = (shown: number) => height - PAD - ((shown - low) / (high - low)) * (height - 2 * PAD)
  return { ticks, yShown, y: (celsius: number) => yShown(toShown(celsius)) }
}

export interface Drawn {
  key: string
  step: string
  from: number
  to: number
  value: number
  ways: string[]
  standing: string
}

/** Limits that are temperatures, as dotted lines with their numbers, inside their own column. */
export function marksOf(column: Column, span: Span | undefined): Drawn[] {
  if (!span) return []
  return column.limits
    .filter((limit) => TEMPERATURES.has(limit.quantity))
    .flatMap((limit) =>
      limit.marks.map((mark, index) => ({
        key: `${column.step}-${limit.id}-${index}`,
        step: column.step,
        from: span.from + 2,
        to: span.to - 2,
        value: mark.value,
        ways: [...(mark.by_s ? [`${mark.label} · ${lengthOf(mark.by_s)}`] : []), mark.label, valueOf(mark.value, '°C')],
        standing: limit.standing,
      })),
    )
}

/** Whether the curve runs where a limit's number would stand above its line. */
export function crowded(sheet: Schemas['Sheet'], mark: Drawn, y: (celsius: number) => number): boolean {
  const column = sheet.columns.find((each) => each.step === mark.step)
  const core = column?.curves.find((curve) => curve.quantity === 'core')
  if (!core) return false
  const late = core.values.slice(Math.floor(core.values.length * 0.45)).map(y)
  return late.some((at) => at > y(mark.value) - 20 && at < y(mark.value) + 1)
}

/** The fullest of several ways to say it that has room; none where not even the shortest has: nothing is cut short. */
export function fitting(ways: readonly string[], px: number): string {
  const most = Math.floor((px - 10) / LETTER_PX)
  return ways.find((each) => each.length <= most) ?? ''
}
