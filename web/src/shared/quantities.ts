import { lengthOf } from './clock'
import { locale, localNumber, writeAmounts } from './text/i18n'
import { celsiusFrom, choiceNow, KILOGRAMS, METRES, shown, type UnitChoice } from './units'

/** How a number kept in °C, m, kg, s or % is written for somebody: its unit, and there and back. */
export interface Measure {
  unit: string
  digits: number
  toShown: (inside: number) => number
  toInside: (typed: number) => number
}

const SECONDS: Record<string, number> = { s: 1, min: 60, h: 3600, d: 86400 }

function scaled(unit: string, factor: number, digits: number): Measure {
  return { unit, digits, toShown: (inside) => inside / factor, toInside: (typed) => typed * factor }
}

/** The measure of a kind of quantity, in the units somebody chose. `show` is how the server would write it. */
export function measureFor(kind: string, show: string, choice: UnitChoice): Measure {
  switch (kind) {
    case 'temperature':
      return {
        unit: choice.temperature,
        digits: 1,
        toShown: (c) => shown(c, choice.temperature),
        toInside: (v) => celsiusFrom(v, choice.temperature),
      }
    case 'difference':
      return scaled(choice.temperature, choice.temperature === '°F' ? 1 / 1.8 : 1, 2)
    case 'degree_hours':
      return choice.temperature === '°F' ? scaled('°F·h', 1 / 1.8, 0) : scaled('°C·h', 1, 0)
    case 'length':
      return choice.length === 'in' ? scaled('in', METRES.in, 2) : scaled('mm', METRES.mm, 1)
    case 'height':
      return choice.length === 'in' ? scaled('ft', METRES.ft, 0) : scaled('m', METRES.m, 0)
    case 'mass':
      if (show === 'kg') return choice.mass === 'oz' ? scaled('lb', KILOGRAMS.lb, 2) : scaled('kg', KILOGRAMS.kg, 2)
      return choice.mass === 'oz' ? scaled('oz', KILOGRAMS.oz, 2) : scaled('g', KILOGRAMS.g, 1)
    case 'per_mass':
      return choice.mass === 'oz' ? scaled('oz/lb', 62.5, 3) : scaled('g/kg', 1, 1)
    case 'time':
      return scaled(show || 'min', SECONDS[show || 'min'] ?? 60, 2)
    case 'percent':
      return scaled('%', 1, 2)
    case 'ph':
      return scaled('pH', 1, 2)
    default:
      return scaled(show, 1, 3)
  }
}

/** A number with as many digits as it needs and no more than its measure has. */
export function written(value: number, digits: number): string {
  return localNumber(String(Number(value.toFixed(digits))))
}

/** A number with just so many digits. */
export function fixed(value: number, digits: number): string {
  return localNumber(value.toFixed(digits))
}

/** A number with its unit: after it, but for a pH, which is said before. */
export function withUnit(number: string, unit: string): string {
  return (unit === 'pH' ? `pH ${number}` : `${number} ${unit}`).trim()
}

const KIND_OF: Record<string, [kind: string, inside: number]> = {
  '°C': ['temperature', 1],
  K: ['difference', 1],
  '°C·h': ['degree_hours', 1],
  mm: ['length', 0.001],
  kg: ['mass', 1],
  g: ['mass', 0.001],
}

/** Whether somebody may have chosen another unit in place of this one. */
export function isTurned(unit: string): boolean {
  return unit in KIND_OF
}

/** A number and the unit it came with, in the units somebody chose; other units stay. */
export function valueOf(value: number, unit: string, choice: UnitChoice = choiceNow(), digits?: number): string {
  const known = KIND_OF[unit]
  if (!known) return withUnit(written(value, digits ?? 3), unit)
  const measure = measureFor(known[0], unit === 'kg' ? 'kg' : '', choice)
  return withUnit(written(measure.toShown(value * known[1]), digits ?? measure.digits), measure.unit)
}

/** A mass as it is weighed: in grams below a kilogram; nothing where none is said. */
export function massOf(kg: number): string {
  return kg === 0 ? '' : kg < 1 ? valueOf(kg * 1000, 'g') : valueOf(kg, 'kg')
}

/** A height above the sea [m], its thousands apart. */
export function heightOf(metres: number, choice: UnitChoice = choiceNow()): string {
  const measure = measureFor('height', '', choice)
  return withUnit(Math.round(measure.toShown(metres)).toLocaleString(locale()), measure.unit)
}

/** How far a value may be off, in its unit: two digits that tell, however small it is. */
export function plusMinus(value: number, unit: string, choice: UnitChoice = choiceNow()): string {
  const digits = value > 0 ? Math.min(Math.max(1 - Math.floor(Math.log10(value)), 1), 5) : 1
  if (unit === 'pH') return `±${written(value, digits)} pH`
  return `±${valueOf(value, unit === '°C' ? 'K' : unit, choice, digits)}`
}

/** A length of time in words, from seconds up. */
export function lasting(seconds: number): string {
  return Math.abs(seconds) < 120 ? `${Math.round(seconds)} s` : lengthOf(seconds)
}

writeAmounts((value, unit, printed) => (printed && choiceNow().temperature === '°F' ? printed : valueOf(value, unit)))
