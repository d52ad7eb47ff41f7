import './shared/text/laterWords'
import { afterAll, vi } from 'vitest'

// files share one made-up browser, so that they run three times as quickly: each leaves it as nobody has used it
afterAll(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
  if (typeof localStorage !== 'undefined') localStorage.clear()
})
