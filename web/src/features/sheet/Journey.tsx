import { useId, useMemo } from 'react'
import { useTranslation } from 'react-i18next'

import type { Schemas } from '../../shared/client/client'
import { lengthOf } from '../../shared/clock'
import { useQuantities } from '../../shared/reference'
import { useUnits } from '../../shared/units'
import { edges, pathOf, scaleOf, type Span, xIn } from './geometry'

type Column = Schemas['SheetColumn']
type Curve = Column['curves'][number]

const PAD = 12
const LETTER_PX = 6.4
const TEMPERATURES = new Set(['core', 'air', 'bath', 'surface'])

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
  const { unitOf, info } = useQuantities()
  const hatch = useId()
  const spans = edges(widths)
  const wide = spans.at(-1)?.to ?? 0
  const step = unit === '°F' ? 50 : 20
  const marks = sheet.columns.flatMap((column, index) => marksOf(column, spans[index]))
  const { low, high, ticks } = useMemo(() => {
    const cores = sheet.columns.flatMap((column) =>
      column.curves.filter((curve) => curve.quantity === 'core').flatMap((curve) => curve.values.map(toShown)),
    )
    return scaleOf([...cores, toShown(sheet.cold_c), toShown(sheet.hot_c)], step)
  }, [sheet, toShown, step])
  const y = (celsius: number) => height - PAD - ((toShown(celsius) - low) / (high - low)) * (height - 2 * PAD)
  const yShown = (shown: number) => height - PAD - ((shown - low) / (high - low)) * (height - 2 * PAD)
  function otherName(curve: Curve): string {
    const last = (curve.values.at(-1) ?? 0).toFixed(info(curve.quantity)?.decimals ?? 1)
    const its = unitOf(curve.quantity)
    const where = curve.quantity === 'salt' ? `${t('sheet.middle')} ` : ''
    return `${t(`quantity.${curve.quantity}` as never) as string} ${where}${last} ${its === 'pH' ? '' : its}`.trim()
  }
  return (
    <svg
      className="journey"
      width={wide}
      height={height}
      role="img"
      aria-label={t('sheet.journeyOf', { steps: sheet.columns.length })}
    >
      <defs>
        <pattern id={hatch} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="9" className="hatch-line" />
        </pattern>
      </defs>
      <rect x={0} y={0} width={wide} height={height} className="journey-ground" />
      <rect
        x={0}
        y={y(sheet.hot_c)}
        width={wide}
        height={Math.max(y(sheet.cold_c) - y(sheet.hot_c), 0)}
        fill={`url(#${hatch})`}
      />
      {!small && (
        <text x={8} y={y(sheet.hot_c) + 16} className="journey-zone">
          {t('sheet.zone')}
        </text>
      )}
      {!small &&
        ticks.map((tick) => (
          <line key={tick} x1={0} x2={5} y1={yShown(tick)} y2={yShown(tick)} className="journey-tick" />
        ))}
      {spans.map((span, index) => (
        <line key={index} x1={span.to} x2={span.to} y1={0} y2={height} className="journey-edge" />
      ))}
      {sheet.columns.map((column, index) =>
        column.step === chosen && spans[index] ? (
          <rect
            key={column.step}
            x={spans[index].from + 1}
            y={1}
            width={spans[index].to - spans[index].from - 2}
            height={height - 2}
            className="journey-chosen"
          />
        ) : null,
      )}
      {!small &&
        marks.map((mark) => (
          <g key={mark.key}>
            <line
              x1={mark.from}
              x2={mark.to}
              y1={y(mark.value)}
              y2={y(mark.value)}
              className={`journey-limit ${mark.standing}`}
            />
            <text
              x={mark.to - 4}
              y={y(mark.value) + (crowded(sheet, mark, y) ? 14 : -4)}
              textAnchor="end"
              className={`journey-limit-text ${mark.standing}`}
            >
              {fitting(mark.label, mark.to - mark.from, mark.short)}
            </text>
          </g>
        ))}
      {sheet.columns.map((column, index) => {
        const span = spans[index]
        if (!span) return null
        return column.curves.map((curve) =>
          curve.quantity === 'core' ? (
            <path
              key={`core-${curve.basis}`}
              d={pathOf(curve.times_s.map((at, i) => [xIn(span, at, column.length_s), y(curve.values[i] ?? 0)]))}
              className={lineOf(curve, column)}
            />
          ) : (
            <OtherLine
              key={`${curve.quantity}-${curve.basis}`}
              curve={curve}
              column={column}
              span={span}
              height={height}
              small={small}
              name={otherName(curve)}
            />
          ),
        )
      })}
      {sheet.columns.map((column, index) => (
        <Readings key={column.step} column={column} span={spans[index]} y={y} />
      ))}
      {now && <NowLine now={now} columns={sheet.columns} spans={spans} height={height} />}
    </svg>
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

/** What is not heat: on a scale of its own between the column's edges, its last value in words. */
function OtherLine({
  curve,
  column,
  span,
  height,
  small,
  name,
}: {
  curve: Curve
  column: Column
  span: Span
  height: number
  small: boolean
  name: string
}) {
  const all = column.curves.filter((each) => each.quantity === curve.quantity).flatMap((each) => each.values)
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const isLast = column.curves.filter((each) => each.quantity === curve.quantity).at(-1) === curve
  const y = (value: number) => height - 28 - ((value - least) / Math.max(most - least, 1e-9)) * (height - 72)
  const last = y(curve.values.at(-1) ?? least)
  return (
    <>
      <path
        d={pathOf(curve.times_s.map((at, i) => [xIn(span, at, column.length_s), y(curve.values[i] ?? least)]))}
        className={curve.basis === 'measured' ? 'curve-other' : 'curve-other expected'}
      />
      {!small && isLast && (
        <text x={span.to - 6} y={last - 8} textAnchor="end" className="journey-other">
          {fitting(name, span.to - span.from)}
        </text>
      )}
    </>
  )
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

interface Drawn {
  key: string
  step: string
  from: number
  to: number
  value: number
  label: string
  short: string
  standing: string
}

/** Limits that are temperatures, as dotted lines with their numbers, inside their own column. */
function marksOf(column: Column, span: Span | undefined): Drawn[] {
  if (!span) return []
  return column.limits
    .filter((limit) => TEMPERATURES.has(limit.quantity))
    .flatMap((limit) =>
      limit.marks.map((mark, index) => ({
        key: `${column.step}-${limit.id}-${index}`,
        step: column.step,
        from: span.from + 2,
        to: span.to - 2,
        value: mark.value,
        label: mark.by_s ? `${mark.label} · ${lengthOf(mark.by_s)}` : mark.label,
        short: mark.label,
        standing: limit.standing,
      })),
    )
}

/** Whether the curve runs where a limit's number would stand above its line. */
function crowded(sheet: Schemas['Sheet'], mark: Drawn, y: (celsius: number) => number): boolean {
  const column = sheet.columns.find((each) => each.step === mark.step)
  const core = column?.curves.find((curve) => curve.quantity === 'core')
  if (!core) return false
  const late = core.values.slice(Math.floor(core.values.length * 0.45)).map(y)
  return late.some((at) => at > y(mark.value) - 20 && at < y(mark.value) + 1)
}

function fitting(label: string, px: number, short = ''): string {
  const most = Math.floor((px - 10) / LETTER_PX)
  if (short && label.length > most) return fitting(short, px)
  return label.length <= most ? label : most > 4 ? `${label.slice(0, most - 1)}…` : ''
}

/** The temperatures beside the journey. */
export function JourneyAxis({ sheet, height }: { sheet: Schemas['Sheet']; height: number }) {
  const { unit, toShown } = useUnits()
  const step = unit === '°F' ? 50 : 20
  const cores = sheet.columns.flatMap((column) =>
    column.curves.filter((curve) => curve.quantity === 'core').flatMap((curve) => curve.values.map(toShown)),
  )
  const { low, high, ticks } = scaleOf([...cores, toShown(sheet.cold_c), toShown(sheet.hot_c)], step)
  return (
    <svg className="journey-axis" width={62} height={height} aria-hidden="true">
      {ticks.slice(0, -1).map((tick) => (
        <text
          key={tick}
          x={56}
          y={height - PAD - ((tick - low) / (high - low)) * (height - 2 * PAD) + 5}
          textAnchor="end"
          className="journey-axis-text"
        >
          {tick} {unit}
        </text>
      ))}
    </svg>
  )
}
