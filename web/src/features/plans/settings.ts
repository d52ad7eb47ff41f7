import type { Step } from './api'

/** One parameter of a step: how it is called, shown and bounded. Bounds repeat the API's only to help typing. */
export interface Setting {
  field: string
  label: string
  /** Kind of quantity, and the unit it is written in where people choose none. */
  kind: string
  show: string
  /** The field's own unit, in the inside unit of its kind. */
  size: number
  low: number
  high: number
}

const made = (kind: string, show: string, size: number) => (field: string, label: string, low: number, high: number): Setting => ({ field, label, kind, show, size, low, high })
const temperature = made('temperature', '', 1)
const mass = made('mass', 'kg', 1)
const length = made('length', 'mm', 1)
const minutes = made('time', 'min', 1)
const days = made('time', 'd', 86400)
const count = made('number', '', 1)
const power = made('number', 'W', 1)

export const SETTINGS: Record<Step['kind'], Setting[]> = {
  receive: [temperature('max_c', 'max', -30, 10)],
  seal: [mass('pack_mass_kg', 'pack_mass', 0.02, 20), count('packs', 'packs', 1, 500)],
  bath_cook: [
    length('thickness_m', 'thickness', 0.003, 0.2),
    temperature('start_c', 'start', -2, 30),
    temperature('bath_c', 'bath', 40, 100),
    minutes('duration_s', 'duration', 60, 259200),
    mass('water_kg', 'water', 2, 2000),
    power('heater_w', 'heater', 100, 60000),
  ],
  slurry_chill: [
    minutes('begin_within_s', 'begin_within', 0, 3600),
    temperature('target_c', 'target', -1, 10),
    mass('water_kg', 'water', 1, 2000),
    mass('ice_kg', 'ice', 0, 1000),
  ],
  cold_keep: [temperature('max_c', 'max', -30, 8), days('days', 'days', 0.1, 90)],
  reheat: [temperature('core_c', 'core', 40, 100)],
}

export const BLANKS: Record<Step['kind'], Omit<Step, 'id' | 'name'>> = {
  receive: { kind: 'receive', max_c: 4 },
  seal: { kind: 'seal', pack_mass_kg: 1, packs: 6, without_oxygen: true },
  bath_cook: { kind: 'bath_cook', thickness_m: 0.03, start_c: 4, bath_c: 65, duration_s: 7200, water_kg: 56, heater_w: 2000 },
  slurry_chill: { kind: 'slurry_chill', begin_within_s: 300, target_c: 3, water_kg: 20, ice_kg: 12 },
  cold_keep: { kind: 'cold_keep', max_c: 3, days: 5 },
  reheat: { kind: 'reheat', core_c: 75 },
} as Record<Step['kind'], Omit<Step, 'id' | 'name'>>

export function valueOf(step: Step, field: string): number {
  return Number((step as unknown as Record<string, number>)[field] ?? 0)
}

/** The setting a step is known by, for the strip. */
export function mainSettings(step: Step, temp: (c: number, digits?: number) => string): [string, string] {
  switch (step.kind) {
    case 'receive':
      return [`≤ ${temp(step.max_c, 0)}`, '']
    case 'seal':
      return [`${step.packs} × ${step.pack_mass_kg} kg`, '']
    case 'bath_cook':
      return [`${temp(step.bath_c, 0)}`, `${Math.round(step.duration_s / 60)} min, ${(step.thickness_m * 1000).toFixed(0)} mm`]
    case 'slurry_chill':
      return [`to ${temp(step.target_c, 0)}`, `${step.ice_kg} kg ice`]
    case 'cold_keep':
      return [`≤ ${temp(step.max_c, 0)}`, `${step.days} d`]
    case 'reheat':
      return [`${temp(step.core_c, 0)}`, '']
  }
}
