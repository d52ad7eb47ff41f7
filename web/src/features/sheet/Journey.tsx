import { useId, useMemo } from 'react'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { fixed, withUnit } from '../../shared/quantities'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { edges, pathOf, type Span, xIn } from './geometry'
import { type Column, coreScale, crowded, type Curve, type Drawn, fitting, marksOf } from './journeyMarks'

interface Props {
  sheet: Schemas['Sheet']
  widths: readonly number[]
  height: number
  chosen: string | null
  small?: boolean
  /** Where the batch is now: the column and how far into it, from 0 to 1. */
  now?: { step: string; share: number; label: string } | null
}

/** The core through every column as one line over the growth zone; what else changes as a second one. */
export function Journey({ sheet, widths, height, chosen, small = false, now }: Props) {
  const { t } = useTranslation()
  const { unit, toShown } = useUnits()
  const spans = edges(widths)
  const wide = spans.at(-1)?.to ?? 0
  const step = unit === '°F' ? 50 : 20
  const marks = sheet.columns.flatMap((column, index) => marksOf(column, spans[index]))
  const { y, yShown, ticks } = useMemo(() => coreScale(sheet, toShown, step, height), [sheet, toShown, step, height])
  return (
    <svg
      className="journey"
      width={wide}
      height={height}
      role="img"
      aria-label={t('sheet.journeyOf', { steps: sheet.columns.length })}
    >
      <Zone sheet={sheet} wide={wide} height={height} y={y} small={small} />
      {!small &&
        ticks.map((tick) => (
          <line key={tick} x1={0} x2={5} y1={yShown(tick)} y2={yShown(tick)} className="journey-tick" />
        ))}
      {spans.map((span, index) => (
        <line key={index} x1={span.to} x2={span.to} y1={0} y2={height} className="journey-edge" />
      ))}
      <Chosen span={spans[sheet.columns.findIndex((column) => column.step === chosen)]} height={height} />
      {!small && marks.map((mark) => <LimitLine key={mark.key} mark={mark} sheet={sheet} y={y} />)}
      {sheet.columns.map((column, index) => (
        <Lines key={column.step} column={column} span={spans[index]} height={height} small={small} y={y} />
      ))}
      {sheet.columns.map((column, index) => (
        <Readings key={column.step} column={column} span={spans[index]} y={y} />
      ))}
      {now && <NowLine now={now} columns={sheet.columns} spans={spans} height={height} />}
    </svg>
  )
}

interface ZoneProps {
  sheet: Schemas['Sheet']
  wide: number
  height: number
  y: (celsius: number) => number
  small: boolean
}

/** The ground, and on it the temperatures at which things grow. */
function Zone({ sheet, wide, height, y, small }: ZoneProps) {
  const { t } = useTranslation()
  const hatch = useId()
  const top = y(sheet.hot_c)
  return (
    <>
      <defs>
        <pattern id={hatch} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="9" className="hatch-line" />
        </pattern>
      </defs>
      <rect x={0} y={0} width={wide} height={height} className="journey-ground" />
      <rect x={0} y={top} width={wide} height={Math.max(y(sheet.cold_c) - top, 0)} fill={`url(#${hatch})`} />
      {!small && (
        <text x={8} y={top + 16} className="journey-zone">
          {t('sheet.zone')}
        </text>
      )}
    </>
  )
}

function Chosen({ span, height }: { span: Span | undefined; height: number }) {
  if (!span) return null
  return <rect x={span.from + 1} y={1} width={span.to - span.from - 2} height={height - 2} className="journey-chosen" />
}

/** A limit's line with its number: above it, or below where the curve runs there. */
function LimitLine({ mark, sheet, y }: { mark: Drawn; sheet: Schemas['Sheet']; y: (celsius: number) => number }) {
  const at = y(mark.value)
  return (
    <g>
      <line x1={mark.from} x2={mark.to} y1={at} y2={at} className={`journey-limit ${mark.standing}`} />
      <text
        x={mark.to - 4}
        y={at + (crowded(sheet, mark, y) ? 14 : -4)}
        textAnchor="end"
        className={`journey-limit-text ${mark.standing}`}
      >
        {fitting(mark.ways, mark.to - mark.from)}
      </text>
    </g>
  )
}

interface LinesProps {
  column: Column
  span: Span | undefined
  height: number
  small: boolean
  y: (celsius: number) => number
}

/** The core of one step on the scale of temperature; what is no temperature is not drawn on it but said below. */
function Lines({ column, span, height, small, y }: LinesProps) {
  if (!span) return null
  return (
    <>
      {column.curves
        .filter((curve) => curve.quantity === 'core')
        .map((curve) => (
          <path
            key={`core-${curve.basis}`}
            d={pathOf(curve.times_s.map((at, i) => [xIn(span, at, column.length_s), y(curve.values[i] ?? 0)]))}
            className={lineOf(curve, column)}
          />
        ))}
      {!small && <OtherWords column={column} span={span} height={height} />}
    </>
  )
}

function lineOf(curve: Curve, column: Column): string {
  if (curve.basis === 'measured') return 'curve-measured strong'
  if (curve.basis === 'declared') return 'curve-said'
  return column.standing === 'fails' ? 'curve-misses' : 'curve-expected strong'
}

const MOST_DOTS = 14 // more readings than these came from a logger: the line says it

/** Readings taken by hand, as points on the line. */
function Readings({ column, span, y }: { column: Column; span: Span | undefined; y: (celsius: number) => number }) {
  const curve = column.curves.find((each) => each.quantity === 'core' && each.basis === 'measured')
  if (!curve || !span || curve.times_s.length > MOST_DOTS) return null
  return curve.times_s.map((at, i) => (
    <circle key={at} cx={xIn(span, at, column.length_s)} cy={y(curve.values[i] ?? 0)} r={3.4} className="curve-dot" />
  ))
}

/** What is not heat: from what to what it goes in the step, in words; expected ones lean. */
function OtherWords({ column, span, height }: { column: Column; span: Span; height: number }) {
  const { t } = useTranslation()
  const { unitOf, info } = useQuantities()
  const others = [...new Set(column.curves.map((curve) => curve.quantity))].filter((each) => each !== 'core')
  return others.map((quantity, line) => {
    const curves = column.curves.filter((each) => each.quantity === quantity)
    const [first, last] = [curves[0]?.values[0] ?? 0, curves.at(-1)?.values.at(-1) ?? 0]
    const [name, its] = [t(`quantity.${quantity}` as never) as string, unitOf(quantity)]
    const told = (value: number) => fixed(value, info(quantity)?.decimals ?? 1)
    const way = told(first) === told(last) ? told(last) : `${told(first)} → ${told(last)}`
    const full = its === 'pH' ? withUnit(way, its) : `${name} ${way} ${its}`
    return (
      <text
        key={quantity}
        x={span.to - 6}
        y={height - 8 - 16 * line}
        textAnchor="end"
        className={curves.at(-1)?.basis === 'measured' ? 'journey-other' : 'journey-other as-planned'}
      >
        {fitting([full.trim(), withUnit(way, its), withUnit(told(last), its)], span.to - span.from)}
      </text>
    )
  })
}

function NowLine({
  now,
  columns,
  spans,
  height,
}: {
  now: NonNullable<Props['now']>
  columns: readonly Column[]
  spans: readonly Span[]
  height: number
}) {
  const span = spans[columns.findIndex((column) => column.step === now.step)]
  if (!span) return null
  const x = span.from + (span.to - span.from) * Math.min(Math.max(now.share, 0), 1)
  return (
    <g>
      <line x1={x} x2={x} y1={0} y2={height} className="track-now" />
      <rect x={x - 23} y={0} width={46} height={19} rx={3} className="bar-running" />
      <text x={x} y={14} textAnchor="middle" className="bar-text running">
        {now.label}
      </text>
    </g>
  )
}

/** The temperatures beside the journey. */
export function JourneyAxis({ sheet, height }: { sheet: Schemas['Sheet']; height: number }) {
  const { unit, toShown } = useUnits()
  const { ticks, yShown } = coreScale(sheet, toShown, unit === '°F' ? 50 : 20, height)
  return (
    <svg className="journey-axis" width={62} height={height} aria-hidden="true">
      {ticks.slice(0, -1).map((tick) => (
        <text key={tick} x={56} y={yShown(tick) + 5} textAnchor="end" className="journey-axis-text">
          {tick} {unit}
        </text>
      ))}
    </svg>
  )
}
