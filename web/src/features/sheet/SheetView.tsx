import { type CSSProperties, type KeyboardEvent, type ReactNode, useLayoutEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { Board, useShown } from './Board'
import { columnWidths, HEAD_PX, stepTo } from './geometry'
import { InsideRow } from './InsideRow'
import { Overview } from './Overview'
import { SheetCards } from './SheetCards'
import { JourneyRows, LastRows } from './SheetRows'

export type Sheet = Schemas['Sheet']
export type Column = Sheet['columns'][number]

export interface CardWords {
  main: string
  rest: string
}

export interface SheetProps {
  sheet: Sheet
  card: (column: Column) => CardWords
  at: string | null
  onOpen: (at: string) => void
  onMove?: (step: string, by: number) => void
  onPlace?: (step: string, before: string) => void
  onTake?: (key: string) => void
  label: string
  now?: { step: string; share: number; label: string } | null
  live?: boolean
  stateOf?: (step: string) => string | null
  checks?: (column: Column) => ReactNode
}

const MOST_ON_PAPER = 0.6
const PAPER_PX = 1030 // across a landscape page
const PAPER_HIGH_PX = 550 // down it, the page's head and caution left out
const [BESIDE_ROWS_PX, ROW_PX] = [630, 62] // cards, journey, limits and checks; one hazard

/** A process on one sheet: columns are steps; cards, journey, hazards, limits and checks run through them. */
export function SheetView(props: SheetProps) {
  const { sheet, at, onOpen } = props
  const { t } = useTranslation()
  const frame = useRef<HTMLDivElement>(null)
  const space = useWidth(frame)
  const { shown, hidden, all, turn } = useShown(sheet.rows, props.live)
  const [focus, setFocus] = useState<[number, number]>([0, 0])
  const widths = columnWidths(
    sheet.columns.map((column) => column.length_s),
    Math.max(space - HEAD_PX - 2, 0),
  )
  const rows = shown.length + (props.live ? 1 : 3) // cards, hazards, limits, checks
  const columns = sheet.columns.length
  const template = { gridTemplateColumns: `${HEAD_PX}px ${widths.map((width) => `${width}px`).join(' ')}` }

  function cellProps(row: number, column: number) {
    const here = focus[0] === row && focus[1] === column
    return { tabIndex: here ? 0 : -1, 'data-cell': `${row}-${column}`, onFocus: () => setFocus([row, column]) }
  }
  function press(event: KeyboardEvent<HTMLDivElement>) {
    if (event.altKey || event.ctrlKey || event.metaKey) return
    const next = stepTo(event.key, focus[0], focus[1], rows, columns)
    const cell = next && frame.current?.querySelector<HTMLElement>(`[data-cell="${next[0]}-${next[1]}"]`)
    if (!cell) return
    event.preventDefault()
    cell.focus()
  }
  const towards = at?.split(':')[0] ?? sheet.columns.find((column) => column.standing === 'fails')?.step
  return (
    <>
      <Overview sheet={sheet} widths={widths} frame={frame} towards={towards ?? props.now?.step ?? null} />
      <div className="sh-frame" ref={frame} style={onPaper(widths, shown.length)}>
        <div className="sh" role="grid" aria-label={props.label} style={template} onKeyDown={press}>
          <SheetCards {...props} cellProps={cellProps} />
          <JourneyRows {...props} widths={widths} />
          <InsideRow sheet={sheet} widths={widths} />
          <div className="sh-gap" aria-hidden="true" />
          <Board
            rows={shown}
            firstRow={1}
            chosen={at}
            cellProps={cellProps}
            onOpen={(step, hazard) => onOpen(`${step}:hazard:${hazard}`)}
            onTake={props.onTake}
          />
          {hidden > 0 && (
            <div role="row" className="sh-row">
              <div role="gridcell" className="sh-more">
                <Button size="sm" variant="link" onClick={turn}>
                  {t(all ? 'sheet.fewer' : props.live ? 'sheet.hazardsMore' : 'sheet.more', { count: hidden })}
                </Button>
              </div>
            </div>
          )}
          {!props.live && (
            <>
              <div className="sh-gap" aria-hidden="true" />
              <LastRows {...props} first={1 + shown.length} cellProps={cellProps} />
            </>
          )}
        </div>
      </div>
    </>
  )
}

/** So small on paper that the whole sheet stands on one landscape page. */
function onPaper(widths: readonly number[], rows: number): CSSProperties {
  const wide = HEAD_PX + widths.reduce((sum, width) => sum + width, 0)
  const high = BESIDE_ROWS_PX + ROW_PX * rows
  return { '--sh-paper': Math.min(MOST_ON_PAPER, PAPER_PX / wide, PAPER_HIGH_PX / high).toFixed(3) } as CSSProperties
}

function useWidth(frame: { current: HTMLElement | null }): number {
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const element = frame.current
    if (!element) return
    const read = () => setWidth(element.clientWidth)
    read()
    const watch = new ResizeObserver(read)
    watch.observe(element)
    return () => watch.disconnect()
  }, [frame])
  return width
}
