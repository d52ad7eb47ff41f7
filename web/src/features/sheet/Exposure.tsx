import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { edges } from './geometry'

const HIGH_PX = 12

/** The leading clock as a bar that fills beneath the journey; full is all the time there is. */
export function Exposure({ sheet, widths }: { sheet: Schemas['Sheet']; widths: readonly number[] }) {
  const { t } = useTranslation()
  const spans = edges(widths)
  const wide = spans.at(-1)?.to ?? 0
  const last = sheet.columns.at(-1)?.exposed ?? 0
  const points = sheet.columns.flatMap((column, index) => {
    const span = spans[index]
    const before = sheet.columns[index - 1]?.exposed ?? 0
    if (!span) return []
    const begins = Math.min(before, column.exposed) // what was killed begins anew
    return [[span.from, begins] as const, [span.to, column.exposed] as const]
  })
  const y = (share: number) => HIGH_PX - Math.min(share, 1) * (HIGH_PX - 1)
  const shape = [`M0 ${HIGH_PX}`, ...points.map(([x, share]) => `L${x} ${y(share).toFixed(1)}`), `L${wide} ${HIGH_PX}Z`]
  const said = t('sheet.clock', { name: sheet.exposed_by, share: Math.round(100 * last) })
  return (
    <svg className="exposure" width={wide} height={HIGH_PX} role="img" aria-label={said}>
      <rect x={0} y={0} width={wide} height={HIGH_PX} className="journey-ground" />
      <path d={shape.join('')} className={last > 1 ? 'exposure-over' : 'exposure-run'} />
    </svg>
  )
}
