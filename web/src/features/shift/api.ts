import type { Schemas } from '../../shared/client/client'

export { useShift, type NextItem, type Shift } from '../../shared/shift'
export type Lane = Schemas['Lane']
