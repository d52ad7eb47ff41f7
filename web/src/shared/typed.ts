import { type Measure } from './quantities'
import { celsiusFrom, KILOGRAMS, METRES } from './units'

/** Units people type, by kind of quantity, each as its size in the inside unit (°C, m, kg, s, m³, %). */
const SIZES: Record<string, Record<string, number>> = {
  time: {
    s: 1,
    sec: 1,
    second: 1,
    seconds: 1,
    min: 60,
    mins: 60,
    minute: 60,
    minutes: 60,
    m: 60,
    "'": 60,
    h: 3600,
    hr: 3600,
    hrs: 3600,
    hour: 3600,
    hours: 3600,
    d: 86400,
    day: 86400,
    days: 86400,
    w: 604800,
    wk: 604800,
    week: 604800,
    weeks: 604800,
  },
  length: {
    mm: METRES.mm,
    cm: 0.01,
    m: METRES.m,
    in: METRES.in,
    inch: METRES.in,
    inches: METRES.in,
    '"': METRES.in,
    '″': METRES.in,
    ft: METRES.ft,
  },
  height: { m: METRES.m, ft: METRES.ft, feet: METRES.ft },
  mass: {
    mg: 1e-6,
    g: KILOGRAMS.g,
    kg: KILOGRAMS.kg,
    kilo: KILOGRAMS.kg,
    kilos: KILOGRAMS.kg,
    oz: KILOGRAMS.oz,
    lb: KILOGRAMS.lb,
    lbs: KILOGRAMS.lb,
  },
  per_mass: { 'g/kg': 1, 'oz/lb': 62.5 },
  volume: { ml: 1e-6, cl: 1e-5, l: 1e-3 },
  percent: { '%': 1 },
  ph: { ph: 1 },
}
const CELSIUS = new Set(['°c', 'c', '℃', 'degc'])
const FAHRENHEIT = new Set(['°f', 'f', '℉', 'degf'])

const NUMBER = String.raw`[+\-−]?(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d*)?|[.,]\d+)`
const WHOLE = new RegExp(`^(${NUMBER})$`)
const PART = new RegExp(String.raw`\s*(${NUMBER})\s*([^\d\s.,+\-−]+)?`, 'y')

/** One number as people write it: decimal comma, true minus, `1/4`, `1 1/2`. NaN where it is none. */
export function numberFrom(text: string): number {
  const tidy = text.trim().replace('−', '-')
  if (!WHOLE.test(tidy)) return NaN
  const [whole, fraction] = tidy.includes('/') ? (/\s/.test(tidy) ? tidy.split(/\s+/) : ['0', tidy]) : [tidy, undefined]
  const start = Number(whole?.replace(',', '.'))
  if (!fraction) return start
  const [over, under] = fraction.split('/').map(Number) as [number, number]
  const part = tidy.startsWith('-') && whole !== '0' ? -over / under : over / under // −1 1/2 is −1.5
  return under === 0 ? NaN : start + part
}

/**
 * What somebody typed, in the inside unit: `135f`, `2h`, `1/4 in`, `1 h 30`, `1:30`, or a bare number in the unit
 * shown.
 * NaN where it is no quantity of that kind.
 */
export function quantityFrom(text: string, kind: string, measure: Measure): number {
  const tidy = text.trim().toLowerCase()
  if (tidy === '') return NaN
  const bare = numberFrom(tidy)
  if (!Number.isNaN(bare)) return exact(measure.toInside(bare))
  if (kind === 'temperature' || kind === 'difference') return degrees(tidy, kind)
  const clock = /^(\d{1,3}):([0-5]\d)$/.exec(tidy)
  if (kind === 'time' && clock) return Number(clock[1]) * 3600 + Number(clock[2]) * 60
  return summed(tidy, SIZES[kind] ?? { [measure.unit.toLowerCase()]: measure.toInside(1) })
}

function degrees(text: string, kind: 'temperature' | 'difference'): number {
  const parts = /^(.*?\d[.,]?)\s*(\D+)$/.exec(text)
  const unit = parts?.[2]?.replace(/\s/g, '') ?? ''
  const value = numberFrom(parts?.[1] ?? '')
  if (FAHRENHEIT.has(unit)) return exact(kind === 'temperature' ? celsiusFrom(value, '°F') : value / 1.8)
  if (CELSIUS.has(unit) || (kind === 'difference' && unit === 'k')) return value
  return NaN
}

/** Parts that are added, each with its unit: `1 h 30 min`, `2 lb 4 oz`. After hours a last bare number is minutes. */
function summed(text: string, sizes: Record<string, number>): number {
  let total = 0
  let last = Infinity
  PART.lastIndex = 0
  while (PART.lastIndex < text.length) {
    const part = PART.exec(text)
    if (!part) return NaN
    const size = part[2] === undefined && last === 3600 ? 60 : sizes[part[2] ?? '']
    if (size === undefined || size >= last || (last < Infinity && /^[-−+]/.test(part[1] ?? ''))) return NaN
    total += numberFrom(part[1] ?? '') * size
    last = size
  }
  return exact(total)
}

function exact(value: number): number {
  return Number(value.toPrecision(12))
}

/** A unit in which the same number would have been within bounds, to ask about: 135 in a field of °C. */
export function likelyUnit(text: string, kind: string, low: number, high: number, measure: Measure): string | null {
  const value = numberFrom(text)
  if (Number.isNaN(value)) return null
  const candidates = kind === 'temperature' ? ['°F', '°C'] : Object.keys(NAMED[kind] ?? {})
  const found = candidates.find((unit) => {
    const inside = unit === measure.unit ? NaN : quantityFrom(`${value} ${unit}`, kind, measure)
    return inside >= low && inside <= high
  })
  return found ?? null
}

const NAMED: Record<string, Record<string, true>> = {
  time: { min: true, h: true, d: true, s: true },
  length: { mm: true, in: true, cm: true },
  mass: { g: true, kg: true, oz: true, lb: true },
  height: { m: true, ft: true },
}
