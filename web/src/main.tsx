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

import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'

import { App } from './App'
import { Problem } from './shared/client/client'
import { askPassword } from './shared/client/passwordNeeded'
import { theme } from './shared/theme'

document.documentElement.dataset.bsTheme = theme()

/** Whoever hears that the session has run out asks who is there, and the door comes up over the page. */
function onError(error: unknown): void {
  if (error instanceof Problem && error.code === 'sign_in_needed')
    void queries.invalidateQueries({ queryKey: ['session'] })
  if (error instanceof Problem && error.code === 'password_needed') askPassword()
}
const queries = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: true, networkMode: 'always' } },
})
const root = document.getElementById('root')
if (!root) throw new Error('the page has no root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* what is opened is on the screen at once: a cook who types on must not write into what stood there before */}
      <BrowserRouter useTransitions={false}>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
