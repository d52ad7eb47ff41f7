import { useEffect, useRef, useState } from 'react'

import { lengthOf } from '../../shared/clock'
import { shapeOf, MarkGlyph } from '../../shared/parts/StateMark'
import { useUnits } from '../../shared/units'
import type { Lane } from './api'
import { gathered } from './gather'

export const TRACK_WIDTH = 800
const TALL = 108
const LOW = 76
const LINE = 48
const LOW_C = -2
const HIGH_C = 72
const OVER_S = 60 // a minute past its plan is no news

interface Props {
  lane: Lane
  fromS: number
  toS: number
  nowS: number
  ticks: number[]
  tall: boolean
}

/** Whether a lane only waits: nothing was read or is expected in what is shown, and nothing is wrong. */
export function isQuiet(lane: Lane, fromS: number, toS: number): boolean {
  const moves = lane.curves.some((curve) => curve.times_s.some((s) => s >= fromS && s <= toS))
  return !lane.words && !moves
}

/** From times and temperatures to the track. */
function placed({ lane, fromS, toS, tall }: Props, width: number) {
  const height = isQuiet(lane, fromS, toS) ? LINE : tall ? TALL : LOW
  const [top, floor] = [16, height - 26]
  return {
    width,
    height,
    x: (s: number) => ((s - fromS) / (toS - fromS)) * width,
    y: (c: number) => floor - ((Math.min(c, HIGH_C) - LOW_C) / (HIGH_C - LOW_C)) * (floor - top),
  }
}

type Place = ReturnType<typeof placed>

/** One lane: measured curve solid, expected dashed, step bars with their names, checks as shapes. */
export function LaneTrack(props: Props) {
  const { lane, nowS, ticks } = props
  const host = useRef<HTMLDivElement>(null)
  const place = placed(props, useWidth(host))
  const { words } = useUnits()
  const { x, width, height } = place
  const waits = lane.blocks.every((block) => block.finished || !block.started) ? words(lane.waits_for) : ''
  return (
    <div className="lane-track" ref={host}>
      <svg width={width} height={height} aria-hidden="true">
        <rect width={width} height={height - 4} className="track-ground" />
        {ticks.map((tick) => (
          <line key={tick} x1={x(tick)} x2={x(tick)} y1={0} y2={height - 4} className="track-tick" />
        ))}
        <GrowthZone lane={lane} nowS={nowS} place={place} />
        <StepBars lane={lane} nowS={nowS} place={place} />
        <Curves lane={lane} place={place} />
        <line x1={x(nowS)} x2={x(nowS)} y1={0} y2={height} className="track-now" />
        <CheckMarks {...props} place={place} />
        {waits && (
          <text x={12} y={height / 2 + 1} className="lane-waits">
            {waits}
          </text>
        )}
        {lane.words && <Flag x={x(nowS)} width={width} text={words(lane.words)} />}
      </svg>
    </div>
  )
}

/** Where it would grow from now on, hatched, on a lane that is in trouble. */
function GrowthZone({ lane, nowS, place: { x, y, width } }: { lane: Lane; nowS: number; place: Place }) {
  if (!lane.words || typeof lane.growth_from_c !== 'number' || typeof lane.growth_to_c !== 'number') return null
  const id = `hatch-${lane.batch_id}`
  return (
    <>
      <defs>
        <pattern id={id} width="8" height="8" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <line x1="0" y1="0" x2="0" y2="8" className="hatch-line" />
        </pattern>
      </defs>
      <rect
        x={Math.max(0, x(nowS))}
        y={y(lane.growth_to_c)}
        width={Math.max(0, width - x(nowS))}
        height={y(lane.growth_from_c) - y(lane.growth_to_c)}
        fill={`url(#${id})`}
      />
    </>
  )
}

/** The checks of a lane where they are due; what would lie over one another stands as one, with its number. */
function CheckMarks({ lane, fromS, toS, place: { x } }: Props & { place: Place }) {
  const shown = lane.checks
    .map((check) => ({ ...check, dueS: Date.parse(check.due_at) / 1000 }))
    .filter((check) => check.state !== 'missed' && check.dueS >= fromS && check.dueS <= toS)
  return gathered(shown.map(({ id, dueS, state }) => ({ id, state, x: x(dueS) }))).map((mark) => (
    <g key={mark.id}>
      <MarkGlyph shape={shapeOf(mark.state)} x={mark.x} y={10} size={13} />
      {mark.count > 1 && (
        <text x={mark.x + 8} y={14.5} className="mark-count">
          {mark.count}
        </text>
      )}
    </g>
  ))
}

/** The steps as bars; what runs past its planned end says by how much. */
function StepBars({ lane, nowS, place: { x, width, height } }: { lane: Lane; nowS: number; place: Place }) {
  return lane.blocks.map((block) => {
    const from = Math.max(0, x(Date.parse(block.starts) / 1000))
    const to = Math.min(width, x(Date.parse(block.ends) / 1000))
    if (to <= 0 || from >= width || to - from < 2) return null
    const running = block.started && !block.finished
    const overS = running && !block.endless ? nowS - Date.parse(block.planned_end) / 1000 : 0
    const name = overS > OVER_S ? `${block.name} +${lengthOf(overS)}` : block.name
    const over = Math.max(from, x(Date.parse(block.planned_end) / 1000))
    return (
      <g key={block.step}>
        <rect
          x={from}
          y={height - 20}
          width={to - from - 2}
          height={15}
          rx={2}
          className={running ? 'bar-running' : 'bar-other'}
        />
        {overS > OVER_S && <rect x={over} y={height - 20} width={to - over - 2} height={15} className="bar-over" />}
        {to - from > 34 && (
          <text x={from + 6} y={height - 8.5} className={running ? 'bar-text running' : 'bar-text'}>
            {clipped(name, to - from)}
          </text>
        )}
      </g>
    )
  })
}

function Curves({ lane, place: { x, y } }: { lane: Lane; place: Place }) {
  return lane.curves.map((curve) => {
    const points = curve.times_s.map((s, i) => `${x(s).toFixed(1)},${y(curve.values[i] ?? 0).toFixed(1)}`)
    const measured = curve.basis === 'logger' || curve.basis === 'hand'
    const kind = measured ? 'curve-measured' : lane.words ? 'curve-misses' : 'curve-expected'
    return (
      <g key={`${curve.step}${curve.name}${curve.basis}`}>
        <polyline points={points.join(' ')} className={kind} />
        {curve.basis === 'hand' &&
          curve.times_s.map((s, i) => (
            <circle key={s} cx={x(s)} cy={y(curve.values[i] ?? 0)} r={3} className="curve-dot" />
          ))}
      </g>
    )
  })
}

function Flag({ x, width, text }: { x: number; width: number; text: string }) {
  const wide = Math.min(text.length * 6.7 + 18, Math.max(140, width - 8))
  const at = Math.min(x + 22, width - wide - 4)
  return (
    <g>
      <rect x={at} y={22} width={wide} height={22} rx={3} className="flag" />
      <text x={at + 9} y={37.5} className="flag-text">
        {text}
      </text>
    </g>
  )
}

function clipped(text: string, room: number): string {
  const most = Math.floor((room - 10) / 6.4)
  return text.length > most ? `${text.slice(0, Math.max(1, most - 1))}…` : text
}

function useWidth(host: React.RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(TRACK_WIDTH)
  useEffect(() => {
    const element = host.current
    if (!element) return
    const watcher = new ResizeObserver(() => setWidth(element.clientWidth))
    watcher.observe(element)
    return () => watcher.disconnect()
  }, [host])
  return width
}
