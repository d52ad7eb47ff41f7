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

export function setTemperatureUnit(unit: TemperatureUnit): void {
  setUnit('temperature', unit)
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
  let said = unit === '°C' ? text : fahrenheit(text)
  if (length === 'in') said = said.replace(/(\d+(?:\.\d+)?) mm\b(?![/·])/g, (_, value: string) => `${tidy(Number(value) / 25.4, 2)} in`)
  if (mass === 'oz') {
    said = said
      .replace(/(\d+(?:\.\d+)?) kg\b(?![/·])/g, (_, value: string) => `${tidy(Number(value) / KILOGRAMS.lb, 2)} lb`)
      .replace(/(\d+(?:\.\d+)?) g\b(?![/·])/g, (_, value: string) => `${tidy((Number(value) * KILOGRAMS.g) / KILOGRAMS.oz, 2)} oz`)
  }
  return said
}

/** Differences follow “by” or “±” and lose no 32; the rest are temperatures. */
function fahrenheit(text: string): string {
  return text
    .replace(/(by |±)(-?\d+(?:\.\d+)?) °C/g, (_, word: string, value: string) => `${word}${(Number(value) * 1.8).toFixed(1)} °F`)
    .replace(/(-?\d+(?:\.\d+)?) (to|→) (-?\d+(?:\.\d+)?) °C/g, (_, a: string, word: string, b: string) => `${whole(a)} ${word} ${whole(b)} °F`)
    .replace(/(-?\d+(?:\.\d+)?) °C/g, (_, value: string) => `${whole(value)} °F`)
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
