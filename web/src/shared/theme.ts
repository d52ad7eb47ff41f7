import { useSyncExternalStore } from 'react'

export type Theme = 'light' | 'dark'

const KEY = 'brinefrost.theme'
const listeners = new Set<() => void>()

export function theme(): Theme {
  const kept = localStorage.getItem(KEY)
  if (kept === 'light' || kept === 'dark') return kept
  return window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export function setTheme(next: Theme): void {
  localStorage.setItem(KEY, next)
  document.documentElement.dataset.bsTheme = next
  listeners.forEach((listener) => listener())
}

/** The ground of whoever is signed in now; the device's own where they never chose. */
export function takeTheme(chosen: Theme | null | undefined): void {
  if (chosen) return setTheme(chosen)
  localStorage.removeItem(KEY)
  document.documentElement.dataset.bsTheme = theme()
  listeners.forEach((listener) => listener())
}

export function useTheme(): Theme {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    theme,
    () => 'light',
  )
}

/** A colour of the look, as the browser has it now; charts draw with it. */
export function ink(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(`--bf-${name}`).trim()
}
