import type { TFunction } from 'i18next'
import { useState } from 'react'
import { Button, ButtonGroup } from 'react-bootstrap'
import { useTranslation } from 'react-i18next'

import { nowMs, timeOf, whenOf } from '../../shared/clock'
import { type ChartAxis, type ChartLine, CurveChart, type LineKind } from '../../shared/parts/CurveChart'
import { zoneOf } from '../../shared/parts/chartDrawing'
import { useQuantities } from '../../shared/reference'
import type { Batch } from './api'

const LEAD_S = 600
const DAY_S = 86400 // a time axis longer than this bears its days
/** What an axis shows at least, so that a single reading stands in its place. */
const SPANS: Record<string, { low: number; high: number }> = { ph: { low: 3, high: 6.5 }, aw: { low: 0.85, high: 1 } }

/** The curve of one step, or of the whole batch, with its limits and where it is going. */
export function BatchChart({ batch }: { batch: Batch }) {
  const steps = batch.blocks.filter((block) => block.started && batch.curves.some((curve) => curve.step === block.step))
  const current = steps.length ? (steps[steps.length - 1]?.step ?? '') : ''
  const [chosen, setChosen] = useState<string | null>(null)
  const step = chosen ?? current
  const block = steps.find((each) => each.step === step)
  const groups = useGroups(batch, step)
  if (!block) return null
  return (
    <section className="sheet">
      <div className="row-line chart-head">
        <h2>{block.name}</h2>
        {steps.length > 1 && (
          <ButtonGroup className="push">
            {steps.map((each) => (
              <Button
                key={each.step}
                size="sm"
                variant={each.step === step ? 'primary' : 'outline-primary'}
                aria-pressed={each.step === step}
                onClick={() => setChosen(each.step)}
              >
                {each.name}
              </Button>
            ))}
          </ButtonGroup>
        )}
      </div>
      {groups.map((group) => (
        <GroupChart key={group} batch={batch} block={block} group={group} />
      ))}
    </section>
  )
}

function useZone(batch: Batch, step: string) {
  const { t } = useTranslation()
  const limit = batch.limits
    .map((status) => (status.step === step ? status.limit : undefined))
    .find((each) => each?.kind === 'cooling')
  return zoneOf(limit?.kind === 'cooling' ? limit : undefined, t('chart.growth'))
}

const HEAT = 'heat'

/** What a quantity is drawn with: temperatures together, any other alone. Each has a chart with an axis of its own. */
function useGroupOf() {
  const { info } = useQuantities()
  return (quantity: string) => (info(quantity)?.kind === 'temperature' ? HEAT : quantity)
}

function useGroups(batch: Batch, step: string): string[] {
  const groupOf = useGroupOf()
  const drawn = batch.curves.filter((each) => each.step === step && each.basis !== 'slow' && each.times_s.length > 0)
  return [...new Set(drawn.map((curve) => groupOf(curve.quantity)))]
}

interface GroupProps {
  batch: Batch
  block: Batch['blocks'][number]
  group: string
}

/** The curves of one axis at one step. */
function GroupChart({ batch, block, group }: GroupProps) {
  const { t } = useTranslation()
  const groupOf = useGroupOf()
  const step = block.step
  const zone = useZone(batch, step)
  const axis = useAxis(group)
  const lines = linesOf(batch, step, t, (quantity) => groupOf(quantity) === group)
  const marks = marksOf(batch, step, t, (quantity) => groupOf(quantity) === group)
  const fromS = Date.parse(block.starts) / 1000 - LEAD_S
  const times = lines.flatMap((line) => [line.timesS[0] ?? fromS, line.timesS.at(-1) ?? fromS])
  const deadline = marks.map((mark) => mark.byS ?? 0)
  const firstDeadline = deadline.length ? Math.min(...deadline) : 0
  const measuredEnd = Math.max(...times.filter((time) => time <= nowMs() / 1000 + 60), fromS + 3600)
  const toS = Math.max(measuredEnd, firstDeadline) + (block.endless ? 7200 : LEAD_S * 2)
  const long = block.endless || toS - fromS > DAY_S
  return (
    <CurveChart
      label={[batch.code, block.name, axis && t(`quantity.${group}` as never)].filter(Boolean).join(' ')}
      lines={lines}
      marks={marks}
      zone={axis ? undefined : zone}
      axis={axis}
      nowS={block.finished ? undefined : Math.floor(nowMs() / 60000) * 60}
      fromS={fromS}
      toS={toS}
      timeLabel={(s) => (long ? whenOf(s * 1000) : timeOf(s * 1000))}
      height={300}
    />
  )
}

/** Temperatures have the chart's own axis; another quantity brings its own. */
function useAxis(quantity: string): ChartAxis | undefined {
  const { info, measure } = useQuantities()
  const known = info(quantity)
  if (!known) return undefined
  return {
    key: quantity,
    unit: measure(quantity).unit,
    digits: known.decimals,
    toShown: measure(quantity).toShown,
    ...SPANS[quantity],
  }
}

type Of = (quantity: string) => boolean

function marksOf(batch: Batch, step: string, t: TFunction, of: Of) {
  return batch.marks
    .filter((mark) => mark.step === step && of(mark.quantity))
    .map((mark) => ({
      label: mark.label,
      valueC: mark.value,
      byS: mark.by_s,
      byLabel: mark.by_s ? t('chart.by', { label: mark.label, time: timeOf(mark.by_s * 1000) }) : undefined,
      state: mark.state,
    }))
}

function linesOf(batch: Batch, step: string, t: TFunction, of: Of): ChartLine[] {
  const misses = batch.limits.some((status) => status.step === step && status.forecast?.misses)
  return batch.curves
    .filter((curve) => curve.step === step && of(curve.quantity) && curve.basis !== 'slow' && curve.times_s.length > 0)
    .map((curve) => ({
      name:
        curve.basis === 'hand'
          ? `${t(`quantity.${curve.quantity}` as never) as string}, ${t('chart.byHand')}`
          : curve.basis === 'expected'
            ? t('chart.expected')
            : curve.name,
      kind: kindOf(curve.basis, curve.quantity, misses),
      timesS: curve.times_s,
      valuesC: curve.values,
    }))
}

function kindOf(basis: string, quantity: string, misses: boolean): LineKind {
  if (basis === 'expected') return misses ? 'misses' : 'expected'
  if (quantity === 'bath') return basis === 'hand' ? 'bathByHand' : 'bath'
  return basis === 'hand' ? 'byHand' : 'core'
}
