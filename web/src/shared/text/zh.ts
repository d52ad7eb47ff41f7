import { benchZh } from './bench.zh'
import type { Words } from './en'
import { officeZh } from './office.zh'
import { passZh } from './pass.zh'

/** Every word of the interface in Chinese. */
export const zh: Words = { ...passZh, ...officeZh, bench: benchZh }
