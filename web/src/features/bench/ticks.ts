import { ticks } from 'd3-array'

import { type Measure, withUnit, written } from '../../shared/quantities'
import { locale } from '../../shared/text/i18n'

export interface Tick {
  x: number
  label: string
}

interface Span {
  x_kind: string
  x_low: number
  x_high: number
  first_day?: string | null | undefined
}

const ABOUT = 5
const DAY_MS = 86_400_000

/** Round values along a scale, in the unit it is read in; days by their date. */
export function ticksOf(span: Span, measure: Measure): Tick[] {
  const [low, high] = [measure.toShown(span.x_low), measure.toShown(span.x_high)]
  const days = span.x_kind === 'day'
  const round = ticks(low, high, days ? Math.min(ABOUT, Math.floor(high - low)) : ABOUT)
  return round.map((shown) => ({
    x: measure.toInside(shown),
    label: days && span.first_day ? dayLabel(span.first_day, shown) : withUnit(written(shown, 4), measure.unit),
  }))
}

function dayLabel(first: string, days: number): string {
  return new Date(Date.parse(first) + days * DAY_MS).toLocaleDateString(locale(), {
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
}
