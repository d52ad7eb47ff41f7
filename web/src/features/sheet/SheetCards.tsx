import { type DragEvent, useState } from 'react'
import { useTranslation } from 'react-i18next'

import { type CardRow, cardRows, type ViaShape } from './cardRows'
import { SheetGlyph } from './SheetGlyph'
import type { SheetProps } from './SheetView'

export type CellProps = (row: number, column: number) => object

/** The head of each column: a step, its settings in words, how it stands. */
export function SheetCards({
  sheet,
  card,
  at,
  onOpen,
  onMove,
  onPlace,
  stateOf,
  cellProps,
}: SheetProps & { cellProps: CellProps }) {
  const [over, setOver] = useState<string | null>(null)
  function drop(event: DragEvent, before: string) {
    const step = event.dataTransfer.getData('text/plain')
    setOver(null)
    if (step && step !== before) onPlace?.(step, before)
  }
  const rows = cardRows(sheet.columns)
  return rows.map((row) => (
    <div role="row" className="sh-row cards" key={row.line}>
      <LineHead row={row} alone={rows.length === 1} />
      {sheet.columns.map((column, index) => {
        if (column.line !== row.line) return <Via key={column.step} via={row.via[index]} />
        const words = card(column)
        const state = stateOf?.(column.step) ?? null
        const classes = ['sh-card']
        if (at?.split(':')[0] === column.step) classes.push('chosen')
        if (column.standing === 'fails') classes.push('fails')
        if (column.critical) classes.push('critical-step')
        if (over === column.step) classes.push('over')
        if (state === 'running') classes.push('running')
        return (
          <div role="gridcell" className={column.takes.length > 0 ? 'sh-cell taking' : 'sh-cell'} key={column.step}>
            <button
              type="button"
              {...cellProps(0, index)}
              className={classes.join(' ')}
              draggable={Boolean(onPlace)}
              onDragStart={(event) => event.dataTransfer.setData('text/plain', column.step)}
              onDragOver={(event) => {
                if (!onPlace) return
                event.preventDefault()
                setOver(column.step)
              }}
              onDragLeave={() => setOver(null)}
              onDrop={(event) => drop(event, column.step)}
              onClick={() => onOpen(`${column.step}:card`)}
              onKeyDown={(event) => {
                if (!event.altKey || !onMove || (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight')) return
                event.preventDefault()
                onMove(column.step, event.key === 'ArrowLeft' ? -1 : 1)
              }}
            >
              <span className="sh-card-name">
                {column.name}
                {state && state !== 'running' && <SheetGlyph state={state} />}
                {!state && (column.standing === 'fails' || column.standing === 'not_proved') && (
                  <SheetGlyph state={column.standing === 'fails' ? 'would_fail' : 'not_measured'} />
                )}
              </span>
              <span className="sh-card-main">{words.main}</span>
              <span className="sh-card-rest">{words.rest}</span>
              {column.goes_in.length > 0 && column.line === '' && (
                <span className="sh-card-rest goes-in">+ {column.goes_in.join(', ')}</span>
              )}
            </button>
          </div>
        )
      })}
    </div>
  ))
}

/** Whose line a row of cards is, and what goes in there. */
function LineHead({ row, alone }: { row: CardRow; alone: boolean }) {
  const { t } = useTranslation()
  if (alone)
    return (
      <div role="rowheader" className="sh-head">
        <span className="strong">{t('sheet.steps')}</span>
      </div>
    )
  return (
    <div role="rowheader" className="sh-head">
      <span className="strong">{row.line || t('sheet.lineMain')}</span>
      {row.into && <span className="visually-hidden">{t('sheet.runsInto', { step: row.into })}</span>}
      <span className="quiet small">{row.goesIn.join(', ')}</span>
    </div>
  )
}

/** The way of a line to the step that takes it, drawn through the cells beside and below its last card. */
function Via({ via }: { via: ViaShape | undefined }) {
  return <div role="gridcell" className={via ? `sh-cell via ${via}` : 'sh-cell'} />
}
