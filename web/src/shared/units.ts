import { useMemo, useSyncExternalStore } from 'react'

import { localNumber } from './text/i18n'
import { dictionaryAge, said, whenWordsChange } from './words'

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

/** The units that hold now. */
export function choiceNow(): UnitChoice {
  return choiceFrom(stored())
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
  return `${localNumber(shown(celsius, unit).toFixed(digits))} ${unit}`
}

export function useUnits() {
  const text = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      const stop = whenWordsChange(listener)
      return () => {
        listeners.delete(listener)
        stop()
      }
    },
    () => `${stored()} ${dictionaryAge()}`,
    () => '°C mm g 0',
  )
  return useMemo(() => {
    const choice = choiceFrom(text)
    const unit = choice.temperature
    return {
      choice,
      unit,
      temp: (celsius: number, digits = 1) => temperature(celsius, unit, digits),
      /** A name or title the catalogue knows, as this person reads it; anything else as it is written. */
      words: said,
      toShown: (celsius: number) => shown(celsius, unit),
      toCelsius: (value: number) => celsiusFrom(value, unit),
    }
  }, [text])
}
