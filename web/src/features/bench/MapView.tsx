import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { useTranslation } from 'react-i18next'

import { lasting, measureFor, written } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import type { Picture } from './api'
import { useNames } from './names'

type MapPicture = Extract<Picture, { kind: 'map' }>

const BOX = { left: 62, top: 10, width: 560, height: 300, bottom: 44 }

interface Props {
  picture: MapPicture
  family: string
  onMove: (change: Record<string, number>) => void
}

/** Time over two settings. The cross-hair is where the question stands; drag it, or move it with the arrow keys. */
export function MapView({ picture, family, onMove }: Props) {
  const { t } = useTranslation()
  const { choice } = useUnits()
  const names = useNames(family)
  const box = useRef<SVGSVGElement>(null)
  const across = measureFor(picture.x_kind, picture.x_show ?? '', choice)
  const up = measureFor(picture.y_kind, picture.y_show ?? '', choice)
  const [x0, x1] = [picture.x[0] ?? 0, picture.x.at(-1) ?? 1]
  const [y0, y1] = [picture.y[0] ?? 0, picture.y.at(-1) ?? 1]
  const px = (x: number) => BOX.left + ((Math.min(Math.max(x, x0), x1) - x0) / (x1 - x0)) * BOX.width
  const py = (y: number) => BOX.top + BOX.height - ((Math.min(Math.max(y, y0), y1) - y0) / (y1 - y0)) * BOX.height
  const at = [
    `${written(across.toShown(picture.at_x), 1)} ${across.unit}`,
    `${written(up.toShown(picture.at_y), 1)} ${up.unit}`,
  ].join(', ')
  const said = `${at}: ${picture.at_s === null ? t('bench.never') : lasting(picture.at_s)}`

  function move(event: PointerEvent) {
    const area = box.current?.getBoundingClientRect()
    if (!area || (event.type === 'pointermove' && event.buttons !== 1)) return
    const sx = ((event.clientX - area.left) / area.width) * (BOX.left + BOX.width + 10)
    const sy = ((event.clientY - area.top) / area.height) * (BOX.top + BOX.height + BOX.bottom)
    const x = x0 + Math.min(Math.max((sx - BOX.left) / BOX.width, 0), 1) * (x1 - x0)
    const y = y0 + Math.min(Math.max(1 - (sy - BOX.top) / BOX.height, 0), 1) * (y1 - y0)
    onMove({ [picture.x_field]: snapped(x, (x1 - x0) / 80), [picture.y_field]: snapped(y, (y1 - y0) / 95) })
  }

  function onKeyDown(event: KeyboardEvent) {
    const steps: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    }
    const step = steps[event.key]
    if (!step) return
    event.preventDefault()
    const x = Math.min(Math.max(picture.at_x + (step[0] * (x1 - x0)) / 40, x0), x1)
    const y = Math.min(Math.max(picture.at_y + (step[1] * (y1 - y0)) / 40, y0), y1)
    onMove({ [picture.x_field]: snapped(x, (x1 - x0) / 160), [picture.y_field]: snapped(y, (y1 - y0) / 190) })
  }

  return (
    <div>
      <svg
        ref={box}
        className="bench-map"
        viewBox={`0 0 ${BOX.left + BOX.width + 10} ${BOX.top + BOX.height + BOX.bottom}`}
        tabIndex={0}
        role="img"
        aria-label={`${names.picture(picture.title)}. ${said}. ${t('bench.mapHelp')}`}
        onPointerDown={move}
        onPointerMove={move}
        onKeyDown={onKeyDown}
      >
        <defs>
          <pattern id="never" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="8" className="never-line" />
          </pattern>
        </defs>
        <Cells picture={picture} />
        {ticks(x0, x1, across.toShown, across.toInside).map(([value, label]) => (
          <g key={`x${label}`}>
            <line
              x1={px(value)}
              x2={px(value)}
              y1={BOX.top + BOX.height}
              y2={BOX.top + BOX.height + 5}
              className="map-tick"
            />
            <text x={px(value)} y={BOX.top + BOX.height + 20} textAnchor="middle" className="map-text">
              {label} {across.unit}
            </text>
          </g>
        ))}
        {ticks(y0, y1, up.toShown, up.toInside).map(([value, label]) => (
          <text key={`y${label}`} x={BOX.left - 8} y={py(value) + 4} textAnchor="end" className="map-text">
            {label} {up.unit}
          </text>
        ))}
        <line x1={px(picture.at_x)} x2={px(picture.at_x)} y1={BOX.top} y2={BOX.top + BOX.height} className="map-hair" />
        <line
          x1={BOX.left}
          x2={BOX.left + BOX.width}
          y1={py(picture.at_y)}
          y2={py(picture.at_y)}
          className="map-hair"
        />
        <circle cx={px(picture.at_x)} cy={py(picture.at_y)} r={7} className="map-point" />
        <text
          x={BOX.left + BOX.width / 2}
          y={BOX.top + BOX.height + 39}
          textAnchor="middle"
          className="map-text strong"
        >
          {names.field(picture.x_field)}
        </text>
      </svg>
      <p className="chart-words" aria-live="polite">
        {said}
      </p>
      <ul className="map-key">
        {bands(picture, t('bench.within'), t('bench.beyond')).map(([label, index]) => (
          <li key={label}>
            <svg width="22" height="14" aria-hidden="true">
              <rect width="22" height="14" className={`map-band-${index}`} />
            </svg>
            {label}
          </li>
        ))}
        <li>
          <svg width="22" height="14" aria-hidden="true">
            <rect width="22" height="14" className="map-never" />
          </svg>
          {t('bench.never')}
        </li>
      </ul>
    </div>
  )
}

/** Each cell lies round the point it was worked out for, half as large at the edge. */
function Cells({ picture }: { picture: MapPicture }) {
  const across = spans(picture.x.length, BOX.width)
  const up = spans(picture.y.length, BOX.height)
  return (
    <g shapeRendering="crispEdges">
      {picture.cells.flatMap((row, r) =>
        row.map((cell, c) => (
          <rect
            key={`${r}-${c}`}
            x={BOX.left + (across[c]?.from ?? 0)}
            y={BOX.top + BOX.height - (up[r]?.to ?? 0)}
            width={(across[c]?.to ?? 0) - (across[c]?.from ?? 0) + 0.5}
            height={(up[r]?.to ?? 0) - (up[r]?.from ?? 0) + 0.5}
            className={cell === null ? 'map-never' : `map-band-${bandOf(picture, cell)}`}
          />
        )),
      )}
    </g>
  )
}

/** From where to where each of some evenly spaced points reaches along a length. */
export function spans(points: number, length: number): { from: number; to: number }[] {
  const apart = points > 1 ? length / (points - 1) : 2 * length
  return Array.from({ length: points }, (_, index) => ({
    from: Math.max((index - 0.5) * apart, 0),
    to: Math.min((index + 0.5) * apart, length),
  }))
}

function bandOf(picture: MapPicture, seconds: number): number {
  const index = picture.steps.findIndex((step) => seconds <= step)
  return index === -1 ? picture.steps.length : index
}

function bands(picture: MapPicture, within: string, beyond: string): [string, number][] {
  return [
    ...picture.steps.map((step, index): [string, number] => [`${within} ${lasting(step)}`, index]),
    [`${beyond} ${lasting(picture.steps.at(-1) ?? 0)}`, picture.steps.length],
  ]
}

function snapped(value: number, grain: number): number {
  const power = 10 ** Math.floor(Math.log10(grain))
  const step = [1, 2, 5].map((n) => n * power).find((n) => n >= grain * 0.5) ?? power
  return Number((Math.round(value / step) * step).toPrecision(9))
}

function ticks(
  low: number,
  high: number,
  toShown: (v: number) => number,
  toInside: (v: number) => number,
): [number, string][] {
  const [from, to] = [toShown(low), toShown(high)]
  const rough = (to - from) / 5
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((n) => n * power).find((n) => n >= rough) ?? power
  const found: [number, string][] = []
  for (let value = Math.ceil(from / step) * step; value <= to + 1e-9; value += step)
    found.push([toInside(value), written(value, 2)])
  return found
}
