import { benchEs } from './bench.es'
import type { Words } from './en'
import { officeEs } from './office.es'
import { passEs } from './pass.es'

/** Every word of the interface in Spanish. */
export const es: Words = { ...passEs, ...officeEs, bench: benchEs }
