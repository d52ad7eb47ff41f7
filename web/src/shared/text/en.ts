import { office } from './office.en'
import { pass } from './pass.en'

/** Every word of the interface in English, but the Bench's. */
export const en = { ...pass, ...office }

export type Text = typeof en
