import { useTranslation } from 'react-i18next'

import { StateMark } from '../../shared/parts/StateMark'
import { written } from '../../shared/quantities'
import type { Picture } from './api'

type GroundPicture = Extract<Picture, { kind: 'ground' }>

const BOX = { left: 58, top: 12, width: 560, height: 280 }

/** Salt across, pH up: the corner in which each organism can live, the law line, and where this food stands. */
export function GroundView({ picture }: { picture: GroundPicture }) {
  const { t } = useTranslation()
  const px = (x: number) => BOX.left + ((x - picture.x_low) / (picture.x_high - picture.x_low)) * BOX.width
  const py = (y: number) => BOX.top + BOX.height - ((y - picture.y_low) / (picture.y_high - picture.y_low)) * BOX.height
  const placed = picture.areas.map((area, index) => ({
    ...area,
    number: index + 1,
    edge: px(Math.min(area.x_to, picture.x_high)),
  }))
  const living = placed.filter((area) => area.lives).map((area) => area.words)
  const said = living.length ? t('bench.canGrow', { names: living.join(', ') }) : t('bench.noneGrow')
  return (
    <div>
      <svg
        className="bench-map"
        viewBox={`0 0 ${BOX.left + BOX.width + 20} ${BOX.top + BOX.height + 46}`}
        role="img"
        aria-label={[
          `${t('bench.pictures.ground')}.`,
          `pH ${written(picture.at_y, 1)}, ${written(picture.at_x, 1)} %.`,
          said,
        ].join(' ')}
      >
        <rect x={BOX.left} y={BOX.top} width={BOX.width} height={BOX.height} className="ground-back" />
        {placed.map((area) => (
          <rect
            key={area.number}
            x={BOX.left}
            y={BOX.top}
            width={area.edge - BOX.left}
            height={Math.max(py(area.y_from) - BOX.top, 0)}
            className="ground-area"
          />
        ))}
        <line x1={BOX.left} x2={BOX.left + BOX.width} y1={py(picture.law)} y2={py(picture.law)} className="law-line" />
        <text x={BOX.left + BOX.width} y={BOX.top + BOX.height - 8} textAnchor="end" className="map-text">
          {t('bench.tooSour')}
        </text>
        {[3, 4, 5, 6, 7].map((value) => (
          <text key={value} x={BOX.left - 8} y={py(value) + 4} textAnchor="end" className="map-text">
            pH {value}
          </text>
        ))}
        <text x={BOX.left - 8} y={py(picture.law) + 4} textAnchor="end" className="map-text strong">
          {t('bench.law', { ph: picture.law })}
        </text>
        {[0, 5, 10, 15, 20].map((value) => (
          <text key={value} x={px(value)} y={BOX.top + BOX.height + 20} textAnchor="middle" className="map-text">
            {value} %
          </text>
        ))}
        <text
          x={BOX.left + BOX.width / 2}
          y={BOX.top + BOX.height + 40}
          textAnchor="middle"
          className="map-text strong"
        >
          {t('bench.saltInWater')}
        </text>
        {placed.map((area) => (
          <g key={area.number}>
            <circle cx={area.edge} cy={py(area.y_from)} r={10} className="corner" />
            <text x={area.edge} y={py(area.y_from) + 4.5} textAnchor="middle" className="map-text strong">
              {area.number}
            </text>
          </g>
        ))}
        <line x1={px(picture.at_x)} x2={px(picture.at_x)} y1={BOX.top} y2={BOX.top + BOX.height} className="map-hair" />
        <line
          x1={BOX.left}
          x2={BOX.left + BOX.width}
          y1={py(picture.at_y)}
          y2={py(picture.at_y)}
          className="map-hair"
        />
        <circle cx={px(picture.at_x)} cy={py(picture.at_y)} r={8} className="map-point" />
      </svg>
      <ol className="ground-key">
        {placed.map((area) => (
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
      <p className="chart-words">{said}</p>
    </div>
  )
}
