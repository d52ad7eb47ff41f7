import type { ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { Link } from 'react-router'

import { dayOf, timeOf } from '../../shared/clock'
import { useUnits } from '../../shared/units'
import type { Lane } from './api'
import { isQuiet, LaneTrack, TRACK_WIDTH } from './LaneTrack'
import { valueOf } from '../../shared/quantities'

const FEW = 7 // so many lanes and fewer have room to be tall

interface Props {
  lanes: readonly Lane[]
  fromS: number
  toS: number
  nowS: number
  corner: ReactNode
}

/** Every running batch a lane against one clock, with a pinned axis and one now-line. */
export function Lanes({ lanes, fromS, toS, nowS, corner }: Props) {
  const { t } = useTranslation()
  const { words } = useUnits()
  const ticks = ticksBetween(fromS, toS)
  const share = (s: number) => ((s - fromS) / (toS - fromS)) * 100
  const long = toS - fromS > 86400
  return (
    <div className="lanes">
      <div className="lane-axis">
        {corner}
        <div className="lane-clock" aria-hidden="true">
          <svg viewBox={`0 0 ${TRACK_WIDTH} 30`} preserveAspectRatio="none" className="axis-lines">
            {ticks.map((tick) => (
              <line
                key={tick}
                x1={(share(tick) / 100) * TRACK_WIDTH}
                x2={(share(tick) / 100) * TRACK_WIDTH}
                y1={20}
                y2={30}
              />
            ))}
          </svg>
          {ticks
            .filter(
              (tick) =>
                share(tick) <= LAST_LABEL && (Math.abs(share(tick) - share(nowS)) > 5 || share(tick) < share(nowS) - 7),
            )
            .map((tick) => (
              <AxisLabel key={tick} at={share(tick)} text={long ? dayOf(tick * 1000) : timeOf(tick * 1000)} />
            ))}
          <AxisLabel at={share(nowS)} text={timeOf(nowS * 1000)} now />
        </div>
      </div>
      {lanes.map((lane) => (
        <Link
          key={lane.batch_id}
          to={`/batches/${lane.batch_id}`}
          className={isQuiet(lane, fromS, toS) ? 'lane quiet-lane' : 'lane'}
        >
          <div className="lane-name">
            <span className="quiet">
              {lane.code} ·{' '}
              {t(lane.mass_kg ? 'shift.bags' : 'shift.portions', {
                packs: lane.packs,
                mass: valueOf(lane.mass_kg, 'kg'),
              })}
            </span>
            <span className="strong" title={lane.name}>
              {lane.name}
            </span>
            <span className="visually-hidden">
              {words(lane.words || t(lane.blocks.some((block) => block.started) ? 'shift.quiet' : 'shift.notBegun'))}
            </span>
          </div>
          <LaneTrack lane={lane} fromS={fromS} toS={toS} nowS={nowS} ticks={ticks} tall={lanes.length <= FEW} />
        </Link>
      ))}
    </div>
  )
}

const LAST_LABEL = 93 // a label that begins later leaves the track

function AxisLabel({ at, text, now = false }: { at: number; text: string; now?: boolean }) {
  return (
    <span className={now ? 'axis-label now' : 'axis-label'} style={{ left: `${at}%` }}>
      {text}
    </span>
  )
}

function ticksBetween(fromS: number, toS: number): number[] {
  const step = toS - fromS > 86400 ? 86400 : 3600
  const first = Math.ceil(fromS / step) * step
  return Array.from({ length: Math.floor((toS - first) / step) + 1 }, (_, i) => first + i * step)
}
