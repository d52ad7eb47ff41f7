import { ticks, tickStep } from 'd3-array'

import { lasting, type Measure, written } from '../../shared/quantities'
import type { Picture } from './api'

export type MapPicture = Extract<Picture, { kind: 'map' }>

export const BOX = { left: 62, top: 10, width: 560, height: 300, bottom: 44 }
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
}

/** From the two settings to the picture, and back from a finger or a key to the settings. */
export function mapScale(picture: MapPicture) {
  const [x0, x1] = [picture.x[0] ?? 0, picture.x.at(-1) ?? 1]
  const [y0, y1] = [picture.y[0] ?? 0, picture.y.at(-1) ?? 1]
  const to = (x: number, y: number, grainX: number, grainY: number) => ({
    [picture.x_field]: snapped(x, (x1 - x0) / grainX),
    [picture.y_field]: snapped(y, (y1 - y0) / grainY),
  })
  return {
    ends: { x0, x1, y0, y1 },
    px: (x: number) => BOX.left + ((within(x, x0, x1) - x0) / (x1 - x0)) * BOX.width,
    py: (y: number) => BOX.top + BOX.height - ((within(y, y0, y1) - y0) / (y1 - y0)) * BOX.height,
    /** The settings at a place, as a share of the whole drawing's width and height. */
    atPlace(across: number, down: number) {
      const sx = across * (BOX.left + BOX.width + 10)
      const sy = down * (BOX.top + BOX.height + BOX.bottom)
      const x = x0 + within((sx - BOX.left) / BOX.width, 0, 1) * (x1 - x0)
      const y = y0 + within(1 - (sy - BOX.top) / BOX.height, 0, 1) * (y1 - y0)
      return to(x, y, 80, 95)
    },
    /** The settings one step of an arrow key further; null for any other key. */
    byKey(key: string) {
      const step = STEPS[key]
      if (!step) return null
      const x = within(picture.at_x + (step[0] * (x1 - x0)) / 40, x0, x1)
      const y = within(picture.at_y + (step[1] * (y1 - y0)) / 40, y0, y1)
      return to(x, y, 160, 190)
    },
  }
}

export type MapScale = ReturnType<typeof mapScale>

function within(value: number, low: number, high: number): number {
  return Math.min(Math.max(value, low), high)
}

/** From where to where each of some evenly spaced points reaches along a length. */
export function spans(points: number, length: number): { from: number; to: number }[] {
  const apart = points > 1 ? length / (points - 1) : 2 * length
  return Array.from({ length: points }, (_, index) => ({
    from: Math.max((index - 0.5) * apart, 0),
    to: Math.min((index + 0.5) * apart, length),
  }))
}

export function bandOf(picture: MapPicture, seconds: number): number {
  const index = picture.steps.findIndex((step) => seconds <= step)
  return index === -1 ? picture.steps.length : index
}

export function bands(picture: MapPicture, within_: string, beyond: string): [string, number][] {
  return [
    ...picture.steps.map((step, index): [string, number] => [`${within_} ${lasting(step)}`, index]),
    [`${beyond} ${lasting(picture.steps.at(-1) ?? 0)}`, picture.steps.length],
  ]
}

/** A value on a round step about as fine as a grain. */
function snapped(value: number, grain: number): number {
  const step = tickStep(0, grain, 1)
  return Number((Math.round(value / step) * step).toPrecision(9))
}

/** Round values along an axis, each with what is written there. */
export function ticksOf(low: number, high: number, measure: Measure): [number, string][] {
  const round = ticks(measure.toShown(low), measure.toShown(high), 5)
  return round.map((value) => [measure.toInside(value), written(value, 2)])
}
