import { TZDate } from '@date-fns/tz'
import { addDays, lightFormat, set, startOfMinute } from 'date-fns'
import { useEffect, useState } from 'react'

import i18n, { locale } from './text/i18n'

const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS
const AHEAD_MS = HOUR_MS / 2 // clocks differ a little
const PLACE = 'brinefrost.clock'

/** The server's clock and the kitchen's zone, as last told. */
const told = { offsetMs: 0, zone: 'UTC' }

export function setClock(serverNow: string, zone: string): void {
  const offsetMs = Date.parse(serverNow) - Date.now()
  if (Number.isNaN(offsetMs)) return // an answer without a time tells none
  told.offsetMs = offsetMs
  told.zone = zone
  globalThis.localStorage?.setItem(PLACE, String(told.offsetMs))
}

/** Where nothing answers: how far off this tablet's clock was when the server last told. */
export function resumeClock(zone: string): void {
  told.offsetMs = Number(localStorage.getItem(PLACE)) || 0
  told.zone = zone
}

export function nowMs(): number {
  return Date.now() + told.offsetMs
}

export function zone(): string {
  return told.zone
}

const formats = new Map<string, Intl.DateTimeFormat>()

function format(options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = told.zone + locale() + JSON.stringify(options)
  let kept = formats.get(key)
  if (!kept) {
    kept = new Intl.DateTimeFormat(locale(), { timeZone: told.zone, ...options })
    formats.set(key, kept)
  }
  return kept
}

const TIME: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }
const DAY: Intl.DateTimeFormatOptions = { day: 'numeric', month: 'short' }

export function timeOf(moment: string | number): string {
  return format(TIME).format(new Date(moment))
}

const DOUBTED_MS = 180 * DAY_MS // a day so far off is of nobody knows which year

/** Day and month, and the year where it can be doubted: another than this one, or a day half a year away. */
export function dayOf(moment: string | number): string {
  const at = new Date(moment)
  const far = Math.abs(at.getTime() - nowMs()) > DOUBTED_MS
  const year = format({ year: 'numeric' })
  return format(far || year.format(at) !== year.format(nowMs()) ? { ...DAY, year: 'numeric' } : DAY).format(at)
}

/** The kitchen's own day as a date field writes it, 2026-11-25. */
export function isoDayOf(moment: string | number): string {
  return lightFormat(new TZDate(new Date(moment), told.zone), 'yyyy-MM-dd')
}

export function weekdayOf(moment: string | number): string {
  return format({ weekday: 'long' }).format(new Date(moment))
}

export function hourOf(moment: number): number {
  return Number(format({ hour: '2-digit', hourCycle: 'h23' }).format(new Date(moment)))
}

/** Time alone for today, day and time else. */
export function whenOf(moment: string | number): string {
  return dayOf(moment) === dayOf(nowMs()) ? timeOf(moment) : `${dayOf(moment)}, ${timeOf(moment)}`
}

/** A clock time of the kitchen's zone, on the day that puts it closest before now. */
export function momentFromClock(text: string): number | null {
  const match = /^(\d{1,2})[:.]?(\d{2})$/.exec(text.trim())
  if (!match) return null
  const [hours, minutes] = [Number(match[1]), Number(match[2])]
  if (hours > 23 || minutes > 59) return null
  const now = startOfMinute(nowMs()).getTime()
  const found = [1, 0, -1]
    .flatMap((day) => timesOn(addDays(new TZDate(now, told.zone), day), hours, minutes))
    .filter((moment) => moment <= now + AHEAD_MS && moment > now - DAY_MS)
  return found.length ? Math.max(...found) : null
}

/** When it is that time on a day: twice in the hour that the clocks go back over, never in the one they leave out. */
function timesOn(day: TZDate, hours: number, minutes: number): number[] {
  const moment = set(day, { hours, minutes, seconds: 0, milliseconds: 0 }).getTime()
  const is = (each: number) => {
    const there = new TZDate(each, told.zone)
    return there.getHours() === hours && there.getMinutes() === minutes
  }
  return [moment - HOUR_MS, moment, moment + HOUR_MS].filter(is)
}

export function lengthOf(seconds: number): string {
  const minutes = Math.round(Math.abs(seconds) / 60)
  const in_ = (count: number | string, unit: 'd' | 'h' | 'min') => i18n.t(`time.${unit}`, { count: count as number })
  if (minutes < 60) return in_(minutes, 'min')
  const hours = Math.floor(minutes / 60)
  if (hours >= 48)
    return hours % 24 ? `${in_(Math.floor(hours / 24), 'd')} ${in_(hours % 24, 'h')}` : in_(hours / 24, 'd')
  return minutes % 60 ? `${in_(hours, 'h')} ${in_(String(minutes % 60).padStart(2, '0'), 'min')}` : in_(hours, 'h')
}

/** Re-render as the clock goes. */
export function useNow(everyMs = 15000): number {
  const [now, setNow] = useState(nowMs)
  useEffect(() => {
    const timer = setInterval(() => setNow(nowMs()), everyMs)
    return () => clearInterval(timer)
  }, [everyMs])
  return now
}
