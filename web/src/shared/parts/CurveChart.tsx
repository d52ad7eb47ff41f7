import 'uplot/dist/uPlot.min.css'

import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { Button } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'
import uPlot from 'uplot'

import { fixed, withUnit, written } from '../quantities'
import { ink, useTheme } from '../theme'
import { useUnits } from '../units'
import { drawMarks, drawNow, drawZone, type ChartMark, type Zone } from './chartDrawing'

export type LineKind = 'core' | 'bath' | 'expected' | 'misses' | 'byHand' | 'bathByHand' | 'surface'

export interface ChartLine {
  name: string
  kind: LineKind
  timesS: readonly number[]
  valuesC: readonly number[]
}

/** What the upright axis shows; temperatures in the person's unit where nothing is said. */
export interface ChartAxis {
  key: string
  unit: string
  digits: number
  toShown: (inside: number) => number
  low?: number | undefined
  high?: number | undefined
}

interface Props {
  axis?: ChartAxis | undefined
  evenSteps?: boolean
  lines: ChartLine[]
  marks: ChartMark[]
  zone?: Zone | undefined
  nowS?: number | undefined
  fromS?: number | undefined
  toS?: number | undefined
  timeLabel: (seconds: number) => string
  height?: number
  label: string
}

const STEPS = [60, 300, 600, 900, 1800, 3600, 7200, 10800, 21600, 43200, 86400, 172800]

function strokeOf(kind: LineKind): Partial<uPlot.Series> {
  switch (kind) {
    case 'core':
      return { stroke: () => ink('ink'), width: 2.5, points: { show: false } }
    case 'bath':
      return { stroke: () => ink('quiet'), width: 1.2, points: { show: false } }
    case 'bathByHand':
      return { stroke: () => ink('quiet'), width: 1.2, points: { show: true, size: 6, fill: () => ink('card') } }
    case 'surface':
      return { stroke: () => ink('quiet'), width: 1, dash: [2, 3], points: { show: false } }
    case 'expected':
      return { stroke: () => ink('ink'), width: 2, dash: [7, 5], points: { show: false } }
    case 'misses':
      return { stroke: () => ink('hot'), width: 2.5, dash: [7, 5], points: { show: false } }
    case 'byHand':
      return { stroke: () => ink('ink'), width: 2.5, points: { show: true, size: 8, fill: () => ink('ink') } }
  }
}

/** The one chart: heat and chill, bands and limits, a reading line for mouse and keys, a table behind it. */
export function CurveChart(props: Props) {
  const { lines, label, height = 320, timeLabel } = props
  const { t } = useTranslation()
  const units = useUnits()
  const axis = props.axis ?? { key: units.unit, unit: units.unit, digits: 1, toShown: units.toShown, low: -2, high: 68 }
  const { unit, toShown } = axis
  const theme = useTheme()
  const host = useRef<HTMLDivElement>(null)
  const plot = useRef<uPlot | null>(null)
  const [index, setIndex] = useState<number | null>(null)
  const [table, setTable] = useState(false)
  // eslint-disable-next-line react-hooks/exhaustive-deps -- toShown follows the unit
  const data = useMemo(() => joined(lines, toShown), [lines, axis.key])

  useEffect(() => {
    const element = host.current
    if (!element || !lines.length) return
    const made = new uPlot(optionsFor(props, axis, element.clientWidth, height, setIndex), data, element)
    plot.current = made
    const watcher = new ResizeObserver(() => made.setSize({ width: element.clientWidth, height }))
    watcher.observe(element)
    return () => {
      watcher.disconnect()
      made.destroy()
      plot.current = null
    }
    // a new plot for new data, ground or unit
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the rest follows these
  }, [data, theme, axis.key, props.marks, props.nowS, props.fromS, props.toS])

  function onKeyDown(event: KeyboardEvent) {
    const made = plot.current
    if (!made || !['ArrowLeft', 'ArrowRight'].includes(event.key)) return
    event.preventDefault()
    const last = data[0].length - 1
    const step = (event.shiftKey ? 10 : 1) * (event.key === 'ArrowRight' ? 1 : -1)
    const next = Math.min(Math.max((index ?? 0) + step, 0), last)
    made.setCursor({ left: made.valToPos(data[0][next] ?? 0, 'x'), top: 10 })
  }

  if (!lines.some((line) => line.timesS.length)) return <p className="quiet">{t('chart.empty')}</p>
  const said = index === null ? '' : wordsAt(data, lines, index, timeLabel, axis)
  return (
    <div>
      <div
        className="chart"
        ref={host}
        tabIndex={0}
        role="img"
        aria-label={`${label}. ${t('chart.help')}`}
        onKeyDown={onKeyDown}
      />
      <p className="chart-words" aria-live="polite">
        {said}
      </p>
      <Key lines={lines} />
      <Button variant="link" className="fold no-print" aria-expanded={table} onClick={() => setTable(!table)}>
        {table ? t('batch.hideTable') : t('batch.table')}
      </Button>
      {table && (
        <DataTable lines={lines} timeLabel={timeLabel} value={(v) => withUnit(fixed(toShown(v), axis.digits), unit)} />
      )}
    </div>
  )
}

function optionsFor(
  props: Props,
  measure: ChartAxis,
  width: number,
  height: number,
  setIndex: (i: number | null) => void,
): uPlot.Options {
  const { unit, toShown } = measure
  const axis = {
    stroke: () => ink('quiet'),
    font: "500 13px 'Barlow Semi Condensed'",
    ticks: { stroke: () => ink('hair'), width: 1 },
  }
  return {
    width,
    height,
    legend: { show: false },
    cursor: { y: false, points: { size: 7 }, drag: { x: true, y: false } },
    scales: {
      x: { time: false, range: (_u, min, max) => [props.fromS ?? min, props.toS ?? max] },
      y: {
        range: (_u, min, max) => [
          Math.min(min, measure.low === undefined ? min : toShown(measure.low)),
          Math.max(max, measure.high === undefined ? max : toShown(measure.high)) +
            (measure.high === undefined ? (max - min || 1) * 0.1 : 0),
        ],
      },
    },
    axes: [
      {
        ...axis,
        grid: { show: false },
        ...(props.evenSteps ? {} : { incrs: STEPS }),
        space: 70,
        values: (_u, splits) => splits.map(props.timeLabel),
      },
      {
        ...axis,
        grid: { stroke: () => ink('hair'), width: 1 },
        size: 62,
        values: (_u, splits) => splits.map((v) => withUnit(written(v, 6), unit)),
      },
    ],
    series: [{}, ...props.lines.map((line) => ({ label: line.name, spanGaps: false, ...strokeOf(line.kind) }))],
    hooks: {
      drawAxes: [(u) => props.zone && drawZone(u, props.zone, toShown)],
      draw: [
        (u) => {
          drawMarks(u, props.marks, toShown)
          drawNow(u, props.nowS)
        },
      ],
      setCursor: [(u) => setIndex(u.cursor.idx ?? null)],
    },
  }
}

function joined(lines: ChartLine[], toShown: (c: number) => number): uPlot.AlignedData {
  const tables = lines.map((line): uPlot.AlignedData => [[...line.timesS], line.valuesC.map(toShown)])
  return tables.length ? uPlot.join(tables) : [[]]
}

function wordsAt(
  data: uPlot.AlignedData,
  lines: ChartLine[],
  index: number,
  timeLabel: (s: number) => string,
  axis: ChartAxis,
): string {
  const values = lines.flatMap((line, i) => {
    const value = data[i + 1]?.[index]
    return value === null || value === undefined
      ? []
      : [`${line.name} ${withUnit(fixed(value, axis.digits), axis.unit)}`]
  })
  return `${timeLabel(data[0][index] ?? 0)}: ${values.join(', ')}`
}

function Key({ lines }: { lines: ChartLine[] }) {
  const shapes: Record<LineKind, string> = {
    core: 'key-solid',
    bath: 'key-thin',
    surface: 'key-thin',
    expected: 'key-dash',
    misses: 'key-dash-hot',
    byHand: 'key-solid',
    bathByHand: 'key-thin',
  }
  const seen = new Map(lines.map((line) => [line.name, line.kind]))
  return (
    <ul className="chart-key">
      {[...seen].map(([name, kind]) => (
        <li key={name}>
          <svg width="28" height="10" aria-hidden="true">
            <line x1="0" x2="28" y1="5" y2="5" className={shapes[kind]} />
            {kind === 'byHand' && <circle cx="14" cy="5" r="4" className="key-dot" />}
          </svg>
          {name}
        </li>
      ))}
    </ul>
  )
}

function DataTable({
  lines,
  timeLabel,
  value: written,
}: {
  lines: ChartLine[]
  timeLabel: (s: number) => string
  value: (inside: number) => string
}) {
  return (
    <div className="table-behind">
      {lines.map((line) => (
        <table className="table table-sm" key={line.name}>
          <caption>{line.name}</caption>
          <tbody>
            {thinned(line).map(([time, value]) => (
              <tr key={time}>
                <td>{timeLabel(time)}</td>
                <td>{written(value)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </div>
  )
}

function thinned(line: ChartLine): [number, number][] {
  const stride = Math.max(1, Math.ceil(line.timesS.length / 60))
  return line.timesS.flatMap((time, i) => (i % stride === 0 ? [[time, line.valuesC[i] ?? 0] as [number, number]] : []))
}
