import type { BenchWords } from './bench.en'
import { office } from './office.en'
import { pass } from './pass.en'

/** Every word of the interface in English, but the Bench's: they come with the first page that needs them. */
export const en = { ...pass, ...office }

/** Every word of the interface in a language. */
export type Words = typeof en & { bench: BenchWords }
