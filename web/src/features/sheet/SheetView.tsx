import {
  type CSSProperties,
  type DragEvent,
  type KeyboardEvent,
  type ReactNode,
  useLayoutEffect,
  useRef,
  useState,
} from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { lengthOf } from '../../shared/clock'
import { LittleScale } from '../../shared/parts/LittleScale'
import { MarkGlyph, shapeOf } from '../../shared/parts/StateMark'
import { Board, shortName, useShown } from './Board'
import { Exposure } from './Exposure'
import { columnWidths, HEAD_PX, stepTo } from './geometry'
import { Journey, JourneyAxis } from './Journey'
import { Overview } from './Overview'

export type Sheet = Schemas['Sheet']
type Column = Sheet['columns'][number]

export interface CardWords {
  main: string
  rest: string
}

interface Props {
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

const JOURNEY_PX = 216
const MOST_ON_PAPER = 0.6
const PAPER_PX = 1030 // across a landscape page
const PAPER_HIGH_PX = 550 // down it, the page's head and caution left out
const [BESIDE_ROWS_PX, ROW_PX] = [630, 62] // cards, journey, limits and checks; one hazard

/** A process on one sheet: columns are steps; cards, journey, hazards, limits and checks run through them. */
export function SheetView(props: Props) {
  const { sheet, at, onOpen } = props
  const { t } = useTranslation()
  const frame = useRef<HTMLDivElement>(null)
  const space = useWidth(frame)
  const { shown, hidden, all, turn } = useShown(sheet.rows)
  const [focus, setFocus] = useState<[number, number]>([0, 0])
  const widths = columnWidths(
    sheet.columns.map((column) => column.length_s),
    Math.max(space - HEAD_PX - 2, 0),
  )
  const rows = shown.length + 3 // cards, hazards, limits, checks
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
  const limitsRow = 1 + shown.length
  const towards = at?.split(':')[0] ?? sheet.columns.find((column) => column.standing === 'fails')?.step
  return (
    <>
      <Overview sheet={sheet} widths={widths} frame={frame} towards={towards ?? props.now?.step ?? null} />
      <div className="sh-frame" ref={frame} style={onPaper(widths, shown.length)}>
        <div className="sh" role="grid" aria-label={props.label} style={template} onKeyDown={press}>
          <Cards {...props} cellProps={cellProps} />
          <div role="row" className="sh-row">
            <div role="rowheader" className="sh-head journey-head">
              <span className="strong">{t('sheet.journey')}</span>
              <span className="quiet small">{t(props.live ? 'sheet.journeyLive' : 'sheet.journeySub')}</span>
              <JourneyAxis sheet={sheet} height={JOURNEY_PX} />
            </div>
            <div role="gridcell" className="sh-wide">
              <Journey
                sheet={sheet}
                widths={widths}
                height={JOURNEY_PX}
                chosen={at?.split(':')[0] ?? null}
                now={props.now}
              />
            </div>
          </div>
          <div role="row" className="sh-row thin">
            <div role="rowheader" className="sh-head one-line">
              <span className="quiet small">
                {sheet.exposed_by
                  ? t('sheet.exposure', { name: shortName(sheet.exposed_by) })
                  : t('sheet.exposureNone')}
              </span>
            </div>
            <div role="gridcell" className="sh-wide">
              <Exposure sheet={sheet} widths={widths} />
            </div>
          </div>
          <div role="row" className="sh-row thin">
            <div role="rowheader" className="sh-head one-line" />
            {sheet.columns.map((column) => (
              <div role="gridcell" className="sh-length" key={column.step}>
                {lengthOf(column.length_s)}
              </div>
            ))}
          </div>
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
                  {t(all ? 'sheet.fewer' : 'sheet.more', { count: hidden })}
                </Button>
              </div>
            </div>
          )}
          <div className="sh-gap" aria-hidden="true" />
          <div role="row" className="sh-row">
            <div role="rowheader" className="sh-head top">
              <span className="strong">{t('sheet.limits')}</span>
              <span className="quiet small">{t('sheet.limitsSub')}</span>
            </div>
            {sheet.columns.map((column, index) => (
              <div role="gridcell" className="sh-cell" key={column.step}>
                <button
                  type="button"
                  {...cellProps(limitsRow, index)}
                  className={at === `${column.step}:limits` ? 'sh-limits chosen' : 'sh-limits'}
                  onClick={() => onOpen(`${column.step}:limits`)}
                >
                  <span className="visually-hidden">{`${column.name}, ${t('sheet.limits')}: `}</span>
                  <Limits column={column} />
                </button>
              </div>
            ))}
          </div>
          <div role="row" className="sh-row">
            <div role="rowheader" className="sh-head top">
              <span className="strong">{t('sheet.checks')}</span>
              <span className="quiet small">{t('sheet.checksSub')}</span>
            </div>
            {sheet.columns.map((column, index) => (
              <div role="gridcell" className="sh-cell" key={column.step}>
                <button
                  type="button"
                  {...cellProps(limitsRow + 1, index)}
                  className={at === `${column.step}:checks` ? 'sh-checks chosen' : 'sh-checks'}
                  onClick={() => onOpen(`${column.step}:checks`)}
                >
                  <span className="visually-hidden">{`${column.name}, ${t('sheet.checks')}: `}</span>
                  {props.checks ? props.checks(column) : <Checks column={column} />}
                </button>
              </div>
            ))}
          </div>
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

type CellProps = (row: number, column: number) => object

function Cards({ sheet, card, at, onOpen, onMove, onPlace, stateOf, cellProps }: Props & { cellProps: CellProps }) {
  const { t } = useTranslation()
  const [over, setOver] = useState<string | null>(null)
  function drop(event: DragEvent, before: string) {
    const step = event.dataTransfer.getData('text/plain')
    setOver(null)
    if (step && step !== before) onPlace?.(step, before)
  }
  return (
    <div role="row" className="sh-row cards">
      <div role="rowheader" className="sh-head">
        <span className="strong">{t('sheet.steps')}</span>
        <span className="quiet small">{t(onMove ? 'sheet.stepsSub' : 'sheet.stepsRead')}</span>
      </div>
      {sheet.columns.map((column, index) => {
        const words = card(column)
        const state = stateOf?.(column.step) ?? null
        const classes = ['sh-card']
        if (at?.split(':')[0] === column.step) classes.push('chosen')
        if (column.standing === 'fails') classes.push('fails')
        if (column.critical) classes.push('critical-step')
        if (over === column.step) classes.push('over')
        if (state === 'running') classes.push('running')
        return (
          <div role="gridcell" className="sh-cell" key={column.step}>
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
                {state && state !== 'running' && <Glyph state={state} />}
                {!state && (column.standing === 'fails' || column.standing === 'not_proved') && (
                  <Glyph state={column.standing === 'fails' ? 'would_fail' : 'not_measured'} />
                )}
              </span>
              <span className="sh-card-main">{words.main}</span>
              <span className="sh-card-rest">{words.rest}</span>
            </button>
          </div>
        )
      })}
    </div>
  )
}

function Glyph({ state }: { state: string }) {
  return (
    <svg width={18} height={18} viewBox="0 0 20 20" aria-hidden="true" className="sh-glyph">
      <MarkGlyph shape={shapeOf(state)} x={10} y={10} size={17} />
    </svg>
  )
}

const WRONG = new Set(['fails', 'not_proved']) // what still runs, or has not begun, is no fault

function Limits({ column }: { column: Column }) {
  return column.limits.map((limit) => (
    <span className="sh-limit" key={limit.id}>
      {limit.share !== null && (
        <LittleScale
          low={0}
          high={1}
          bandFrom={0.5}
          bandTo={1}
          value={limit.share}
          tone={limit.standing === 'fails' ? 'hot' : 'sea'}
          label={limit.sentence}
        />
      )}
      <span title={limit.title} className={WRONG.has(limit.standing) ? 'sh-room hot' : 'sh-room'}>
        {limit.room || limit.title}
      </span>
    </span>
  ))
}

function Checks({ column }: { column: Column }) {
  const { t } = useTranslation()
  return told(column.checks).map((check, index) => (
    <span className={check.critical ? 'sh-check' : 'sh-check quiet'} key={index}>
      <Glyph state={check.state || 'due'} />
      <span>
        <span className="strong d-block">
          {check.value || t(`quantity.${check.quantity}` as never, { defaultValue: check.what })}
        </span>
        <span className="quiet small">
          {check.state ? t(`state.${check.state}` as never, { defaultValue: check.state }) : oftenOf(check, t)}
        </span>
      </span>
    </span>
  ))
}

const MOST_CHECKS = 4

/** Not every check of a long step: what is late or due first, then the last done, then what comes. */
function told(checks: Column['checks']): Column['checks'] {
  if (checks.length <= MOST_CHECKS || !checks.some((check) => check.state)) return checks
  const pressing = checks.filter((check) => check.state === 'late' || check.state === 'due' || check.state === 'missed')
  const done = checks.filter((check) => check.state === 'done').slice(-2)
  const ahead = checks.filter((check) => check.state === 'upcoming')
  return [...done, ...pressing, ...ahead].slice(0, MOST_CHECKS)
}

function oftenOf(check: Column['checks'][number], t: (key: string, fields?: Record<string, string>) => string): string {
  const times = check.offsets_s.map((offset) => (offset === 0 ? t('sheet.start') : lengthOf(offset)))
  if (check.every_s) return t('plans.every', { time: lengthOf(check.every_s) })
  return times.length ? times.join(', ') : t('sheet.end')
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
