import { useMemo } from 'react'

import { type ChartAxis, type ChartLine, CurveChart, type LineKind } from '../../shared/parts/CurveChart'
import { lasting, measureFor, written } from '../../shared/quantities'
import { useUnits } from '../../shared/units'
import { useTranslation } from 'react-i18next'
import type { Picture } from './api'
import { useNames } from './names'

type CurvePicture = Extract<Picture, { kind: 'curve' }>

const BY_HAND = 40 // more points than a hand takes are a logger's line
const LONG_S = 3 * 86400 // from here on the axis counts days
const KINDS: Record<CurvePicture['lines'][number]['kind'], LineKind> = {
  core: 'expected',
  surface: 'surface',
  surroundings: 'bath',
  other: 'surface',
}

/** Curves of an answer: computed dashed, measured solid. */
export function CurveView({ picture, family }: { picture: CurvePicture; family: string }) {
  const { t } = useTranslation()
  const names = useNames(family)
  const { choice, words } = useUnits()
  const vertical = measureFor(picture.y_kind, picture.y_show ?? '', choice)
  const along = measureFor(picture.x_kind, picture.x_kind === 'length' ? 'mm' : '', choice)
  const inTime = picture.x_kind === 'time'
  const lines = useMemo<ChartLine[]>(
    () =>
      picture.lines.map((line) => ({
        name: t(`bench.lines.${line.name.replaceAll(' ', '_')}`, { defaultValue: line.name }),
        kind: line.measured ? (line.x.length > BY_HAND ? 'core' : 'byHand') : KINDS[line.kind],
        timesS: inTime ? line.x : line.x.map(along.toShown),
        valuesC: line.y,
      })),
    [picture, t, choice], // eslint-disable-line react-hooks/exhaustive-deps -- the measures follow the choice
  )
  const marks = useMemo(
    () =>
      picture.marks.map((mark) => ({
        label: words(mark.words),
        valueC: mark.y,
        byS: mark.x ?? null,
        byLabel: words(mark.words),
        state: mark.failed ? 'fail' : 'due',
      })),
    [picture, words],
  )
  const end = picture.x_high ?? Math.max(...picture.lines.map((line) => line.x.at(-1) ?? 0))
  const axis: ChartAxis = {
    key: `${picture.y_kind}${vertical.unit}`,
    unit: picture.y_kind === 'ph' ? '' : vertical.unit,
    digits: picture.y_kind === 'ph' ? 2 : vertical.digits,
    toShown: vertical.toShown,
    low: picture.y_low ?? undefined,
    high: picture.y_high ?? undefined,
  }
  const zone = picture.zone
    ? { fromC: picture.zone.low, toC: picture.zone.high, label: words(picture.zone.words) }
    : undefined
  return (
    <CurveChart
      label={names.picture(picture.title)}
      lines={lines}
      marks={marks}
      zone={zone}
      axis={axis}
      evenSteps={!inTime}
      fromS={picture.x_high ? 0 : undefined}
      toS={picture.x_high ?? undefined}
      timeLabel={
        inTime
          ? end > LONG_S
            ? dayLabel
            : clockLabel
          : (value) => `${written(value, 1)} ${picture.x_kind === 'length' ? along.unit : ''}`.trim()
      }
      height={picture.title === 'salt_front' ? 260 : 300}
    />
  )
}

function dayLabel(seconds: number): string {
  return `${written(seconds / 86400, 1)} d`
}

function clockLabel(seconds: number): string {
  if (seconds >= 2 * 86400) return lasting(seconds)
  if (seconds > 0 && seconds < 600 && seconds % 60) return lasting(seconds)
  return `${Math.floor(seconds / 3600)}:${String(Math.round((seconds % 3600) / 60)).padStart(2, '0')}`
}
