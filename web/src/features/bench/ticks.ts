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

const MOST = 6
const STEPS = [1, 2, 5]
const DAY_MS = 86_400_000

/** Round values along a scale, in the unit it is read in; days by their date. */
export function ticksOf(span: Span, measure: Measure): Tick[] {
  const [low, high] = [measure.toShown(span.x_low), measure.toShown(span.x_high)]
  const step = span.x_kind === 'day' ? Math.max(1, niceStep(high - low)) : niceStep(high - low)
  const ticks: Tick[] = []
  for (let n = Math.ceil(low / step - 1e-9); n * step <= high + 1e-9; n += 1) {
    const shown = n * step
    ticks.push({
      x: measure.toInside(shown),
      label:
        span.x_kind === 'day' && span.first_day
          ? dayLabel(span.first_day, shown)
          : withUnit(written(shown, 4), measure.unit),
    })
  }
  return ticks
}

function niceStep(width: number): number {
  const power = 10 ** Math.floor(Math.log10(width / MOST))
  return (STEPS.find((each) => width / (each * power) <= MOST) ?? 10) * power
}

function dayLabel(first: string, days: number): string {
  return new Date(Date.parse(first) + days * DAY_MS).toLocaleDateString(locale(), {
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
}
