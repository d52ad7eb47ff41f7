import { Fragment } from 'react'
import { useTranslation } from 'react-i18next'

import { useUnits } from '../../shared/units'
import { edges } from './geometry'
import type { Sheet } from './SheetView'

/** What is in the dish, part by part: from where it goes in, hatched as long as it is raw. */
export function InsideRow({ sheet, widths }: { sheet: Sheet; widths: readonly number[] }) {
  const { t } = useTranslation()
  const { words } = useUnits()
  if (sheet.parts.length === 0) return null
  const spans = edges(widths)
  const place = new Map(sheet.columns.map((column, index) => [column.step, index]))
  const wide = spans.at(-1)?.to ?? 0
  return (
    <div role="row" className="sh-row">
      <div role="rowheader" className="sh-head top">
        <span className="strong">{t('sheet.inside')}</span>
        <span className="quiet small">{t('sheet.insideSub')}</span>
      </div>
      <div role="gridcell" className="sh-wide sh-inside">
        {sheet.parts.map((part) => {
          const from = spans[place.get(part.enters) ?? 0]?.from ?? 0
          const done = part.state === 'done' ? (spans[place.get(part.done_at) ?? 0]?.from ?? from) : wide
          const raw = part.state === 'plain' ? from : done
          const name = sheet.columns[place.get(part.done_at) ?? 0]?.name ?? ''
          return (
            <div className={`sh-part ${part.state}`} key={`${part.enters}-${part.state}-${part.names.join()}`}>
              <span className="sh-part-raw" style={{ marginLeft: from, width: Math.max(raw - from, 0) }} />
              <span className="sh-part-done" style={{ width: Math.max(wide - Math.max(raw, from), 0) }} />
              <span className="sh-part-said" style={{ left: Math.min(from, wide - 260) + 8 }}>
                {part.names.map((each, index) => (
                  <Fragment key={each}>
                    {index > 0 && ', '}
                    <span className="strong">{words(each)}</span>
                  </Fragment>
                ))}{' '}
                {t(`sheet.part.${part.state}`, { step: words(name) })}
              </span>
            </div>
          )
        })}
      </div>
    </div>
  )
}
