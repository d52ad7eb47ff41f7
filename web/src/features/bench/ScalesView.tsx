import type { CSSProperties } from 'react'

import { StateMark } from '../../shared/parts/StateMark'
import { measureFor, withUnit, written } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { Picture } from './api'
import { ticksOf } from './ticks'

type ScalePicture = Extract<Picture, { kind: 'scales' }>
type Row = ScalePicture['rows'][number]

/**
 * Scales under each other: what each allows thick, where one stands a pointer with its doubt, what all share a line.
 */
export function ScalesView({ picture }: { picture: ScalePicture }) {
  const { choice, words } = useUnits()
  const measure = measureFor(picture.x_kind, picture.x_show ?? '', choice)
  const { x_low: low, x_high: high } = picture
  const at = (x: number) => `${(100 * (Math.min(Math.max(x, low), high) - low)) / (high - low)}%`
  const ticks = ticksOf(picture, measure)
  const label = (row: Row) =>
    [
      words(row.words),
      words(row.said ?? ''),
      row.at === null || row.at === undefined || picture.x_kind === 'day'
        ? ''
        : withUnit(written(measure.toShown(row.at), measure.digits), measure.unit),
    ]
      .filter(Boolean)
      .join(', ')
  return (
    <div className="scales">
      <ul>
        {picture.rows.map((row) => (
          <li key={row.words}>
            <div className="dial-head">
              {row.state && <StateMark state={row.state} bare size={18} />}
              <span className="strong">{words(row.words)}</span>
              <span className="push quiet">{words(row.said ?? '')}</span>
            </div>
            <div className="scale-track" role="img" aria-label={label(row)}>
              {row.stretches?.map((each, index) => (
                <span
                  key={index}
                  className={`scale-${each.kind ?? 'allowed'}`}
                  style={{ left: at(each.low), right: `calc(100% - ${at(each.high)})` }}
                />
              ))}
              {picture.marks?.map((mark) => (
                <span key={mark.words} className="scale-mark" style={{ left: at(mark.x) }} />
              ))}
              {row.at !== null && row.at !== undefined && <Pointer at={at} value={row.at} doubt={row.doubt ?? 0} />}
            </div>
          </li>
        ))}
      </ul>
      <div className="scale-axis" aria-hidden="true">
        {ticks.map((tick) => (
          <span key={tick.label} className={sideOf((tick.x - low) / (high - low))} style={{ left: at(tick.x) }}>
            {tick.label}
          </span>
        ))}
      </div>
      <p className="scale-keys">
        {picture.pointer && (
          <span>
            <Triangle className="scale-key-point" /> {words(picture.pointer)}
          </span>
        )}
        {picture.still && (
          <span>
            <span className="scale-still scale-key-still" /> {words(picture.still)}
          </span>
        )}
        {picture.marks?.map((mark) => (
          <span key={mark.words}>
            <span className="scale-key" /> {words(mark.words)}
          </span>
        ))}
      </p>
    </div>
  )
}

function Pointer({ at, value, doubt }: { at: (x: number) => string; value: number; doubt: number }) {
  return (
    <>
      {doubt > 0 && (
        <span className="scale-doubt" style={{ left: at(value - doubt), right: `calc(100% - ${at(value + doubt)})` }} />
      )}
      <Triangle className="scale-point" style={{ left: at(value) }} />
    </>
  )
}

function Triangle(props: { className: string; style?: CSSProperties }) {
  return (
    <svg {...props} viewBox="0 0 14 10" aria-hidden="true">
      <path d="M7 10L0 0h14z" />
    </svg>
  )
}

/** Words at an end of the axis keep within it. */
function sideOf(share: number): string {
  return share < 0.05 ? 'at-left' : share > 0.95 ? 'at-right' : ''
}
