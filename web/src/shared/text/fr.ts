import { benchFr } from './bench.fr'
import type { Words } from './en'
import { officeFr } from './office.fr'
import { passFr } from './pass.fr'

/** Every word of the interface in French. */
export const fr: Words = { ...passFr, ...officeFr, bench: benchFr }
