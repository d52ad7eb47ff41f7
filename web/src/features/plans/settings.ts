import type { Step } from './api'

/** One parameter of a step: how it is called, shown and bounded. Bounds repeat the API's only to help typing. */
export interface Setting {
  field: string
  label: string
  unit: string
  factor: number
  low: number
  high: number
  temperature?: boolean
}

const temperature = (field: string, label: string, low: number, high: number): Setting => ({ field, label, unit: '°C', factor: 1, low, high, temperature: true })
const plain = (field: string, label: string, unit: string, factor: number, low: number, high: number): Setting => ({ field, label, unit, factor, low, high })

export const SETTINGS: Record<Step['kind'], Setting[]> = {
  receive: [temperature('max_c', 'max', -30, 10)],
  seal: [plain('pack_mass_kg', 'pack_mass', 'kg', 1, 0.02, 20), plain('packs', 'packs', '', 1, 1, 500)],
  bath_cook: [
    plain('thickness_m', 'thickness', 'mm', 1000, 3, 200),
    temperature('start_c', 'start', -2, 30),
    temperature('bath_c', 'bath', 40, 100),
    plain('duration_s', 'duration', 'min', 1 / 60, 1, 4320),
    plain('water_kg', 'water', 'kg', 1, 2, 2000),
    plain('heater_w', 'heater', 'W', 1, 100, 60000),
  ],
  slurry_chill: [
    plain('begin_within_s', 'begin_within', 'min', 1 / 60, 0, 60),
    temperature('target_c', 'target', -1, 10),
    plain('water_kg', 'water', 'kg', 1, 1, 2000),
    plain('ice_kg', 'ice', 'kg', 1, 0, 1000),
  ],
  cold_keep: [temperature('max_c', 'max', -30, 8), plain('days', 'days', 'd', 1, 0.1, 90)],
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
