import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'

import { lengthOf } from '../../shared/clock'
import { LittleScale } from '../../shared/parts/LittleScale'
import { shortName } from './Board'
import { Exposure } from './Exposure'
import { Journey, JourneyAxis } from './Journey'
import type { CellProps } from './SheetCards'
import { SheetGlyph } from './SheetGlyph'
import type { Column, Sheet, SheetProps } from './SheetView'

const JOURNEY_PX = 216

/** The food's way through the steps, what it stays exposed to, and how long each step takes. */
export function JourneyRows({ sheet, widths, at, now, live }: SheetProps & { widths: readonly number[] }) {
  const { t } = useTranslation()
  return (
    <>
      <div role="row" className="sh-row">
        <div role="rowheader" className="sh-head journey-head">
          <span className="strong">{t('sheet.journey')}</span>
          <span className="quiet small">{t(live ? 'sheet.journeyLive' : 'sheet.journeySub')}</span>
          <JourneyAxis sheet={sheet} height={JOURNEY_PX} />
        </div>
        <div role="gridcell" className="sh-wide">
          <Journey sheet={sheet} widths={widths} height={JOURNEY_PX} chosen={at?.split(':')[0] ?? null} now={now} />
        </div>
      </div>
      <div role="row" className="sh-row thin">
        <div role="rowheader" className="sh-head one-line">
          <span className="quiet small">
            {sheet.exposed_by ? t('sheet.exposure', { name: shortName(sheet.exposed_by) }) : t('sheet.exposureNone')}
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
    </>
  )
}

interface TouchRow {
  sheet: Sheet
  name: 'limits' | 'checks'
  at: string | null
  cell: (index: number) => object
  onOpen: (at: string) => void
  inside: (column: Column) => ReactNode
}

function TouchRow({ sheet, name, at, cell, onOpen, inside }: TouchRow) {
  const { t } = useTranslation()
  return (
    <div role="row" className="sh-row">
      <div role="rowheader" className="sh-head top">
        <span className="strong">{t(`sheet.${name}`)}</span>
        <span className="quiet small">{t(`sheet.${name}Sub`)}</span>
      </div>
      {sheet.columns.map((column, index) => (
        <div role="gridcell" className="sh-cell" key={column.step}>
          <button
            type="button"
            {...cell(index)}
            className={at === `${column.step}:${name}` ? `sh-${name} chosen` : `sh-${name}`}
            onClick={() => onOpen(`${column.step}:${name}`)}
          >
            <span className="visually-hidden">{`${column.name}, ${t(`sheet.${name}`)}: `}</span>
            {inside(column)}
          </button>
        </div>
      ))}
    </div>
  )
}

/** Each step's limits with the room that is left, and what is watched there; ``first`` is their place in the grid. */
export function LastRows({ first, cellProps, ...props }: SheetProps & { first: number; cellProps: CellProps }) {
  const { sheet, at, onOpen, checks } = props
  return (
    <>
      <TouchRow
        {...{ sheet, at, onOpen }}
        name="limits"
        cell={(index) => cellProps(first, index)}
        inside={(column) => <Limits column={column} />}
      />
      <TouchRow
        {...{ sheet, at, onOpen }}
        name="checks"
        cell={(index) => cellProps(first + 1, index)}
        inside={(column) => (checks ? checks(column) : <Checks column={column} />)}
      />
    </>
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
      <span
        title={limit.title}
        className={limit.planned ? 'sh-room as-planned' : WRONG.has(limit.standing) ? 'sh-room hot' : 'sh-room'}
      >
        {limit.room || limit.title}
      </span>
    </span>
  ))
}

function Checks({ column }: { column: Column }) {
  const { t } = useTranslation()
  return told(column.checks).map((check, index) => (
    <span className={check.critical ? 'sh-check' : 'sh-check quiet'} key={index}>
      <SheetGlyph state={check.state || 'due'} />
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
  if (check.every_s) return t('sheet.every', { time: lengthOf(check.every_s) })
  return times.length ? times.join(', ') : t('sheet.end')
}
