import { useMemo, useSyncExternalStore } from 'react'

export type TemperatureUnit = '°C' | '°F'
export type LengthUnit = 'mm' | 'in'
export type MassUnit = 'g' | 'oz'

export interface UnitChoice {
  temperature: TemperatureUnit
  length: LengthUnit
  mass: MassUnit
}

export const KILOGRAMS = { g: 0.001, kg: 1, oz: 0.028349523125, lb: 0.45359237 } as const
export const METRES = { mm: 0.001, m: 1, in: 0.0254, ft: 0.3048 } as const

const KEYS = { temperature: 'brinefrost.temperature', length: 'brinefrost.length', mass: 'brinefrost.mass' } as const
const listeners = new Set<() => void>()

function stored(): string {
  return [
    localStorage.getItem(KEYS.temperature) === '°F' ? '°F' : '°C',
    localStorage.getItem(KEYS.length) === 'in' ? 'in' : 'mm',
    localStorage.getItem(KEYS.mass) === 'oz' ? 'oz' : 'g',
  ].join(' ')
}

function choiceFrom(text: string): UnitChoice {
  const [temperature, length, mass] = text.split(' ') as [TemperatureUnit, LengthUnit, MassUnit]
  return { temperature, length, mass }
}

export function setUnit<Kind extends keyof UnitChoice>(kind: Kind, unit: UnitChoice[Kind]): void {
  localStorage.setItem(KEYS[kind], unit)
  listeners.forEach((listener) => listener())
}

/** The units of whoever is signed in now; what they never chose is as the house has it. */
export function takeUnits(chosen: Partial<Record<keyof UnitChoice, string | null>>): void {
  for (const kind of ['temperature', 'length', 'mass'] as const) {
    const unit = chosen[kind]
    if (unit) localStorage.setItem(KEYS[kind], unit)
    else localStorage.removeItem(KEYS[kind])
  }
  listeners.forEach((listener) => listener())
}

export function shown(celsius: number, unit: TemperatureUnit): number {
  return unit === '°C' ? celsius : (celsius * 9) / 5 + 32
}

export function celsiusFrom(value: number, unit: TemperatureUnit): number {
  return unit === '°C' ? value : ((value - 32) * 5) / 9
}

export function temperature(celsius: number, unit: TemperatureUnit, digits = 1): string {
  return `${shown(celsius, unit).toFixed(digits)} ${unit}`
}

/** Sentences from the server are in °C, mm, g and kg; turn them for people who think in other units. */
export function localise(text: string, unit: TemperatureUnit, length: LengthUnit = 'mm', mass: MassUnit = 'g'): string {
  const differences = text.replace(/(-?\d+(?:\.\d+)?) K(?![\w·/²])/g, (_, value: string) => (unit === '°C' ? `${value} °C` : `${tidy(Number(value) * 1.8, 1)} °F`))
  let said = unit === '°C' ? differences : fahrenheit(differences)
  if (length === 'in') said = said.replace(/(\d+(?:\.\d+)?) mm\b(?![/·])/g, (_, value: string) => `${tidy(Number(value) / 25.4, 2)} in`)
  if (mass === 'oz') {
    said = said
      .replace(/(\d+(?:\.\d+)?) kg\b(?![/·])/g, (_, value: string) => `${tidy(Number(value) / KILOGRAMS.lb, 2)} lb`)
      .replace(/(\d+(?:\.\d+)?) g\b(?![/·])/g, (_, value: string) => `${tidy((Number(value) * KILOGRAMS.g) / KILOGRAMS.oz, 2)} oz`)
  }
  return said
}

const N = '-?\\d+(?:\\.\\d+)?'
/** What the codes print in °F, where the exact conversion would be another number: Food Code 2022, FSIS Appendix A and B. */
const PRINTED: Record<string, string> = {
  '-20': '-4', '-35': '-31', '4.4': '40', '5': '41', '10': '50', '21': '70', '26.7': '80', '54.4': '130', '57': '135', '60': '140',
  '62.8': '145', '63': '145', '68': '155', '68.3': '155', '70': '158', '71.1': '160', '73.9': '165', '74': '165',
}
/** Words that stand before what was measured: it is converted exactly, whatever it is. */
const MEASURED = /(?:[Cc]ore|[Hh]ottest|reading|read|reached|is at|was|now|got to|at end|lowest|[Ee]nded at|shows) $/

/** Temperatures lose 32 and differences do not: those are written in K, or follow “by”, “±”, “margin” or stand before “of the”. */
function fahrenheit(text: string): string {
  const difference = (value: string) => tidy(Number(value) * 1.8, 1)
  return text
    .replace(new RegExp(`(${N}) °C \\((${N}) °F\\)`, 'g'), (_, _c: string, f: string) => `${f} °F`)
    .replace(new RegExp(`(${N}) of (${N}) °C·h`, 'g'), (_, a: string, b: string) => `${difference(a)} of ${difference(b)} °F·h`)
    .replace(new RegExp(`(${N}) °C·h`, 'g'), (_, a: string) => `${difference(a)} °F·h`)
    .replace(new RegExp(`(by |± ?|margin )(${N}) °C`, 'g'), (_, word: string, value: string) => `${word}${(Number(value) * 1.8).toFixed(1)} °F`)
    .replace(new RegExp(`within (${N}) °C of`, 'g'), (_, value: string) => `within ${difference(value)} °F of`)
    .replace(new RegExp(`(${N}) (to|→|and) (${N}) °C`, 'g'), (_, a: string, word: string, b: string) => `${limitOr(a, '')} ${word} ${limitOr(b, '')} °F`)
    .replace(new RegExp(`(${N}) °C`, 'g'), (_, value: string, at: number, whole_: string) => `${limitOr(value, whole_.slice(Math.max(0, at - 14), at))} °F`)
}

function limitOr(celsius: string, before: string): string {
  return (!MEASURED.test(before) && PRINTED[celsius]) || whole(celsius)
}

function whole(celsius: string): string {
  return shown(Number(celsius), '°F').toFixed(1).replace(/\.0$/, '')
}

function tidy(value: number, digits: number): string {
  return String(Number(value.toFixed(digits)))
}

export function useUnits() {
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    stored,
    () => '°C mm g',
  )
  return useMemo(() => {
    const choice = choiceFrom(text)
    const unit = choice.temperature
    return {
      choice,
      unit,
      temp: (celsius: number, digits = 1) => temperature(celsius, unit, digits),
      words: (said: string) => localise(said, unit, choice.length, choice.mass),
      toShown: (celsius: number) => shown(celsius, unit),
      toCelsius: (value: number) => celsiusFrom(value, unit),
    }
  }, [text])
}
