import i18n from '../text/i18n'
import { Problem } from './client'

/** The server refuses more before reading it, which a browser in mid-upload would only see as a broken line. */
const LARGEST_FILE = 8_000_000

/** A file and what goes with it, ready to be sent; too large a file is refused here. */
export function fileForm(file: File, parts: Record<string, string>): FormData {
  if (file.size > LARGEST_FILE)
    throw new Problem(
      413,
      'too_large',
      i18n.t('trace.tooLarge', { size: Math.round(file.size / 1e6), most: LARGEST_FILE / 1e6 }),
    )
  const data = new FormData()
  data.append('file', file, file.name)
  for (const [name, value] of Object.entries(parts)) data.append(name, value)
  return data
}
