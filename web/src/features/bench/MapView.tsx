import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { useTranslation } from 'react-i18next'

import { lasting, type Measure, measureFor, withUnit, written } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import { bandOf, bands, BOX, mapScale, type MapPicture, type MapScale, spans, ticksOf } from './mapGeometry'
import { Hair } from './MapHair'
import { useNames } from './names'

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
  const scale = mapScale(picture)
  const at = [
    withUnit(written(across.toShown(picture.at_x), 1), across.unit),
    withUnit(written(up.toShown(picture.at_y), 1), up.unit),
  ].join(', ')
  const said = `${at}: ${picture.at_s === null ? t('bench.never') : lasting(picture.at_s)}`

  function move(event: PointerEvent) {
    const area = box.current?.getBoundingClientRect()
    if (!area || (event.type === 'pointermove' && event.buttons !== 1)) return
    onMove(scale.atPlace((event.clientX - area.left) / area.width, (event.clientY - area.top) / area.height))
  }

  function onKeyDown(event: KeyboardEvent) {
    const change = scale.byKey(event.key)
    if (!change) return
    event.preventDefault()
    onMove(change)
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
        <Axes scale={scale} across={across} up={up} title={names.field(picture.x_field)} />
        <Hair box={BOX} x={scale.px(picture.at_x)} y={scale.py(picture.at_y)} r={7} />
      </svg>
      <p className="chart-words" aria-live="polite">
        {said}
      </p>
      <Key picture={picture} />
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

function Axes({ scale, across, up, title }: { scale: MapScale; across: Measure; up: Measure; title: string }) {
  const { x0, x1, y0, y1 } = scale.ends
  const foot = BOX.top + BOX.height
  return (
    <>
      {ticksOf(x0, x1, across).map(([value, label]) => (
        <g key={`x${label}`}>
          <line x1={scale.px(value)} x2={scale.px(value)} y1={foot} y2={foot + 5} className="map-tick" />
          <text x={scale.px(value)} y={foot + 20} textAnchor="middle" className="map-text">
            {withUnit(label, across.unit)}
          </text>
        </g>
      ))}
      {ticksOf(y0, y1, up).map(([value, label]) => (
        <text key={`y${label}`} x={BOX.left - 8} y={scale.py(value) + 4} textAnchor="end" className="map-text">
          {withUnit(label, up.unit)}
        </text>
      ))}
      <text x={BOX.left + BOX.width / 2} y={foot + 39} textAnchor="middle" className="map-text strong">
        {title}
      </text>
    </>
  )
}

function Key({ picture }: { picture: MapPicture }) {
  const { t } = useTranslation()
  const entries = [
    ...bands(picture, t('bench.within'), t('bench.beyond')).map(([label, index]) => [label, `map-band-${index}`]),
    [t('bench.never'), 'map-never'],
  ]
  return (
    <ul className="map-key">
      {entries.map(([label, look]) => (
        <li key={label}>
          <svg width="22" height="14" aria-hidden="true">
            <rect width="22" height="14" className={look} />
          </svg>
          {label}
        </li>
      ))}
    </ul>
  )
}
