import { useSyncExternalStore } from 'react'

import type { NextItem } from './shift'

/** What calls a cook who stands away from the tablet, the gravest last. */
export const LEVELS = ['due', 'late', 'trouble'] as const
export type Level = (typeof LEVELS)[number]

const AGAIN_MS = 5 * 60_000 // what is late or in trouble calls again until it is seen to; common practice, no source
const PLACE = 'brinefrost.heard'
const listeners = new Set<() => void>()

/** Whether this tablet is heard: its own choice, not a person's. It is, until somebody says otherwise. */
export function isHeard(): boolean {
  return localStorage.getItem(PLACE) !== 'off'
}

export function setHeard(on: boolean): void {
  localStorage.setItem(PLACE, on ? 'on' : 'off')
  listeners.forEach((listener) => listener())
  if (!on) return
  wake()
  sound('due')
  if ('Notification' in window && Notification.permission === 'default') void Notification.requestPermission()
}

export function useHeard(): boolean {
  return useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, isHeard)
}

export function levelOf(item: NextItem): Level | null {
  return LEVELS.find((level) => level === item.state) ?? null
}

function keyOf(item: NextItem): string {
  return [item.batch_id, item.kind, item.check?.id ?? item.title, item.state].join(' ')
}

/** Remembers what was called, and says what has to be called now: what is new, and what nobody has seen to since. */
export class Caller {
  private readonly called = new Map<string, number>()
  private quiet = true // what stood there when the page was opened is on the screen, and calls nobody

  next(items: readonly NextItem[], nowMs: number): NextItem[] {
    const open = items.filter(levelOf)
    const keys = new Set(open.map(keyOf))
    for (const key of this.called.keys()) if (!keys.has(key)) this.called.delete(key)
    const found = open.filter((item) => {
      const before = this.called.get(keyOf(item))
      return before === undefined || (item.state !== 'due' && nowMs - before >= AGAIN_MS)
    })
    found.forEach((item) => this.called.set(keyOf(item), nowMs))
    const calls = this.quiet ? [] : found
    this.quiet = false
    return calls
  }
}

/** The gravest of them. */
export function gravest(items: readonly NextItem[]): Level | null {
  return LEVELS.findLast((level) => items.some((item) => item.state === level)) ?? null
}

let audio: AudioContext | undefined

/** A browser plays nothing before somebody touched the page. */
export function wake(): void {
  if (typeof AudioContext === 'undefined') return
  audio ??= new AudioContext()
  void audio.resume()
}

const TONES: Record<Level, [hz: number, s: number][]> = {
  due: [[620, 0.16]],
  late: [
    [620, 0.16],
    [620, 0.16],
  ],
  trouble: [
    [880, 0.2],
    [620, 0.2],
    [880, 0.2],
    [620, 0.2],
  ],
}

export function sound(level: Level): void {
  navigator.vibrate?.(TONES[level].flatMap(([, s]) => [s * 1000, 80]))
  if (!audio || audio.state !== 'running') return
  let at = audio.currentTime
  for (const [hz, s] of TONES[level]) {
    const [tone, volume] = [audio.createOscillator(), audio.createGain()]
    tone.frequency.value = hz
    volume.gain.setValueAtTime(0.35, at)
    volume.gain.exponentialRampToValueAtTime(0.001, at + s)
    tone.connect(volume).connect(audio.destination)
    tone.start(at)
    tone.stop(at + s)
    at += s + 0.08
  }
}

/** Over whatever else the tablet shows, where that was allowed. */
export function notify(title: string, body: string): void {
  if (!('Notification' in window) || Notification.permission !== 'granted' || document.visibilityState === 'visible')
    return
  new Notification(title, { body, tag: title, icon: '/mark-192.png' })
}

let open = 0
const titles = new Set<() => void>()

/** How many things are late or in trouble: before the page's title, and on its icon where the browser can. */
export function setBadge(count: number): void {
  if (count === open) return
  open = count
  const marked = navigator as Navigator & { setAppBadge?: (count: number) => Promise<void> }
  void marked.setAppBadge?.(count).catch(() => undefined)
  titles.forEach((listener) => listener())
}

export function useBadge(): number {
  return useSyncExternalStore(
    (listener) => {
      titles.add(listener)
      return () => titles.delete(listener)
    },
    () => open,
    () => 0,
  )
}
