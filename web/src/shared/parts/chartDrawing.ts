import type uPlot from 'uplot'

import { ink } from '../theme'

export interface ChartMark {
  label: string
  valueC: number
  byS?: number | null | undefined
  byLabel?: string | undefined
  state: string
}

export interface Zone {
  fromC: number
  toC: number
  label: string
}

interface CoolingLimit {
  from_c: number
  stages: readonly { to_c: number }[]
}

/** The zone a cooling limit is there for: from its first temperature down to its last. */
export function zoneOf(limit: CoolingLimit | undefined, label: string): Zone | undefined {
  return limit && { fromC: Math.min(...limit.stages.map((stage) => stage.to_c)), toC: limit.from_c, label }
}

/** The growth zone: hatched as well as tinted, so that colour is never alone. */
export function drawZone(u: uPlot, zone: Zone, toShown: (c: number) => number): void {
  const { ctx, bbox } = u
  const top = Math.max(u.valToPos(toShown(zone.toC), 'y', true), bbox.top)
  const bottom = Math.min(u.valToPos(toShown(zone.fromC), 'y', true), bbox.top + bbox.height)
  if (bottom <= top) return
  const dpr = window.devicePixelRatio
  ctx.save()
  ctx.beginPath()
  ctx.rect(bbox.left, top, bbox.width, bottom - top)
  ctx.clip()
  ctx.strokeStyle = ink('growth-line')
  ctx.globalAlpha = 0.2
  ctx.lineWidth = dpr
  const gap = 12 * dpr
  for (let x = bbox.left - (bottom - top); x < bbox.left + bbox.width; x += gap) {
    ctx.beginPath()
    ctx.moveTo(x, bottom)
    ctx.lineTo(x + (bottom - top), top)
    ctx.stroke()
  }
  ctx.globalAlpha = 1
  ctx.fillStyle = ink('growth')
  ctx.font = `500 ${13 * dpr}px 'Barlow Semi Condensed'`
  ctx.textAlign = 'left'
  ctx.strokeStyle = ink('card')
  ctx.lineWidth = 4 * dpr
  ctx.strokeText(zone.label, bbox.left + 8 * dpr, top + 17 * dpr)
  ctx.fillText(zone.label, bbox.left + 8 * dpr, top + 17 * dpr)
  ctx.restore()
}

/** Limits as fine dotted lines with their number; deadlines as an upright stroke with its time. */
export function drawMarks(u: uPlot, marks: ChartMark[], toShown: (c: number) => number): void {
  const { ctx, bbox } = u
  const dpr = window.devicePixelRatio
  ctx.save()
  ctx.font = `500 ${13 * dpr}px 'Barlow Semi Condensed'`
  for (const mark of marks) {
    const y = u.valToPos(toShown(mark.valueC), 'y', true)
    if (y < bbox.top || y > bbox.top + bbox.height) continue
    const failed = mark.state === 'fail'
    ctx.strokeStyle = ink(failed ? 'hot' : 'ink')
    ctx.fillStyle = ctx.strokeStyle
    ctx.setLineDash([1.5 * dpr, 3 * dpr])
    ctx.lineWidth = 1.2 * dpr
    ctx.beginPath()
    ctx.moveTo(bbox.left, y)
    ctx.lineTo(bbox.left + bbox.width, y)
    ctx.stroke()
    ctx.setLineDash([])
    const byX = mark.byS ? u.valToPos(mark.byS, 'x', true) : NaN
    const inside = byX >= bbox.left && byX <= bbox.left + bbox.width
    if (inside) {
      ctx.lineWidth = 2 * dpr
      ctx.beginPath()
      ctx.moveTo(byX, y - 9 * dpr)
      ctx.lineTo(byX, y + 9 * dpr)
      ctx.stroke()
    }
    const text = inside && mark.byLabel ? mark.byLabel : mark.label
    const room = bbox.left + bbox.width - byX > 120 * dpr
    ctx.textAlign = inside ? (room ? 'left' : 'right') : 'right'
    const x = inside ? byX + (room ? 6 : -6) * dpr : bbox.left + bbox.width - 6 * dpr
    ctx.lineWidth = 4 * dpr // a halo of the ground, so that no curve runs through the words
    ctx.strokeStyle = ink('card')
    ctx.strokeText(text, x, y - 5 * dpr)
    ctx.fillText(text, x, y - 5 * dpr)
  }
  ctx.restore()
}

export function drawNow(u: uPlot, nowS: number | undefined): void {
  if (nowS === undefined) return
  const { ctx, bbox } = u
  const x = u.valToPos(nowS, 'x', true)
  if (x < bbox.left || x > bbox.left + bbox.width) return
  const dpr = window.devicePixelRatio
  ctx.save()
  ctx.setLineDash([])
  ctx.strokeStyle = ink('sea')
  ctx.lineWidth = 2 * dpr
  ctx.beginPath()
  ctx.moveTo(x, bbox.top)
  ctx.lineTo(x, bbox.top + bbox.height)
  ctx.stroke()
  ctx.restore()
}
