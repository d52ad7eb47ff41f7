import type { BenchWords } from './bench.en'
import type { Office } from './office.en'
import { pass } from './pass.en'

/** Every word of a cook's pages in English: the desk's and the Bench's come with the first page that needs them. */
export const en = pass

/** Every word of the interface in a language. */
export type Words = typeof pass & Office & { bench: BenchWords }
