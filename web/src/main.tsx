import './shared/look/bootstrap.scss'
import './shared/look/fonts.css'
import './shared/look/look.css'
import './shared/look/controls.css'
import './shared/look/parts.css'
import './shared/look/pages.css'
import './shared/look/shift.css'
import './shared/look/batches.css'
import './shared/look/plans.css'
import './shared/look/bench.css'
import './shared/look/scales.css'
import './shared/text/i18n'

import { MutationCache, QueryCache, QueryClient } from '@tanstack/react-query'
import { PersistQueryClientProvider } from '@tanstack/react-query-persist-client'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'

import { App } from './App'
import { Problem } from './shared/client/client'
import { askPassword } from './shared/client/passwordNeeded'
import { lasting, LASTS_MS } from './shared/lasting'
import { tellReach } from './shared/reach'
import { resumeSession } from './shared/session'
import { theme } from './shared/theme'

document.documentElement.dataset.bsTheme = theme()

/** Whoever hears that the session has run out asks who is there, and the door comes up over the page. */
function onError(error: unknown): void {
  tellReach(error)
  if (error instanceof Problem && error.code === 'sign_in_needed')
    void queries.invalidateQueries({ queryKey: ['session'] })
  if (error instanceof Problem && error.code === 'password_needed') askPassword()
}
const queries = new QueryClient({
  queryCache: new QueryCache({ onError, onSuccess: () => tellReach(null) }),
  mutationCache: new MutationCache({ onError, onSuccess: () => tellReach(null) }),
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true, networkMode: 'always', gcTime: LASTS_MS } },
})
const root = document.getElementById('root')
if (!root) throw new Error('the page has no root')
createRoot(root).render(
  <StrictMode>
    <PersistQueryClientProvider client={queries} persistOptions={lasting} onSuccess={() => resumeSession(queries)}>
      {/* what is opened is on the screen at once: a cook who types on must not write into what stood there before */}
      <BrowserRouter useTransitions={false}>
        <App />
      </BrowserRouter>
    </PersistQueryClientProvider>
  </StrictMode>,
)

// the page itself opens without a network; not while it is being developed
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  window.addEventListener('load', () => void navigator.serviceWorker.register('/sw.js').catch(() => undefined))
