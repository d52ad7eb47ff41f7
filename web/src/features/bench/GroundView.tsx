import { useTranslation } from 'react-i18next'

import { StateMark } from '../../shared/parts/StateMark'
import { written } from '../../shared/quantities'
import type { Picture } from './api'
import { Hair } from './MapHair'

type GroundPicture = Extract<Picture, { kind: 'ground' }>

const BOX = { left: 58, top: 12, width: 560, height: 280 }
const FOOT = BOX.top + BOX.height

/** The picture's places, and its areas with their numbers and corners. */
function laid(picture: GroundPicture) {
  const px = (x: number) => BOX.left + ((x - picture.x_low) / (picture.x_high - picture.x_low)) * BOX.width
  const py = (y: number) => FOOT - ((y - picture.y_low) / (picture.y_high - picture.y_low)) * BOX.height
  const areas = picture.areas.map((area, index) => ({
    ...area,
    number: index + 1,
    edge: px(Math.min(area.x_to, picture.x_high)),
    foot: py(area.y_from),
  }))
  return { px, py, areas }
}

type Laid = ReturnType<typeof laid>

/** Salt across, pH up: the corner in which each organism can live, the law line, and where this food stands. */
export function GroundView({ picture }: { picture: GroundPicture }) {
  const { t } = useTranslation()
  const ground = laid(picture)
  const living = ground.areas.filter((area) => area.lives).map((area) => area.words)
  const said = living.length ? t('bench.canGrow', { names: living.join(', ') }) : t('bench.noneGrow')
  return (
    <div>
      <svg
        className="bench-map"
        viewBox={`0 0 ${BOX.left + BOX.width + 20} ${FOOT + 46}`}
        role="img"
        aria-label={[
          `${t('bench.pictures.ground')}.`,
          `pH ${written(picture.at_y, 1)}, ${written(picture.at_x, 1)} %.`,
          said,
        ].join(' ')}
      >
        <rect x={BOX.left} y={BOX.top} width={BOX.width} height={BOX.height} className="ground-back" />
        {ground.areas.map((area) => (
          <rect
            key={area.number}
            x={BOX.left}
            y={BOX.top}
            width={area.edge - BOX.left}
            height={Math.max(area.foot - BOX.top, 0)}
            className="ground-area"
          />
        ))}
        <Axes ground={ground} law={picture.law} />
        {ground.areas.map((area) => (
          <g key={area.number}>
            <circle cx={area.edge} cy={area.foot} r={10} className="corner" />
            <text x={area.edge} y={area.foot + 4.5} textAnchor="middle" className="map-text strong">
              {area.number}
            </text>
          </g>
        ))}
        <Hair box={BOX} x={ground.px(picture.at_x)} y={ground.py(picture.at_y)} r={8} />
      </svg>
      <Key areas={ground.areas} />
      <p className="chart-words">{said}</p>
    </div>
  )
}

/** pH up, salt across, and the line of the law between them. */
function Axes({ ground: { px, py }, law }: { ground: Laid; law: number }) {
  const { t } = useTranslation()
  return (
    <>
      <line x1={BOX.left} x2={BOX.left + BOX.width} y1={py(law)} y2={py(law)} className="law-line" />
      <text x={BOX.left + BOX.width} y={FOOT - 8} textAnchor="end" className="map-text">
        {t('bench.tooSour')}
      </text>
      {[3, 4, 5, 6, 7].map((value) => (
        <text key={value} x={BOX.left - 8} y={py(value) + 4} textAnchor="end" className="map-text">
          pH {value}
        </text>
      ))}
      <text x={BOX.left - 8} y={py(law) + 4} textAnchor="end" className="map-text strong">
        {t('bench.law', { ph: law })}
      </text>
      {[0, 5, 10, 15, 20].map((value) => (
        <text key={value} x={px(value)} y={FOOT + 20} textAnchor="middle" className="map-text">
          {value} %
        </text>
      ))}
      <text x={BOX.left + BOX.width / 2} y={FOOT + 40} textAnchor="middle" className="map-text strong">
        {t('bench.saltInWater')}
      </text>
    </>
  )
}

function Key({ areas }: { areas: Laid['areas'] }) {
  const { t } = useTranslation()
  return (
    <ol className="ground-key">
      {areas.map((area) => (
        <li key={area.number}>
          <span className="strong">{area.number}</span>
          <StateMark state={area.lives ? 'late' : 'due'} bare size={16} />
          <span>{area.words}</span>
          <span className="quiet push">
            {t(area.lives ? 'bench.lives' : 'bench.stopped', { ph: area.y_from, salt: written(area.x_to, 1) })}
          </span>
        </li>
      ))}
    </ol>
  )
}
