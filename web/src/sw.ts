/// <reference lib="webworker" />
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute, type PrecacheEntry } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'

/** The page itself, kept so that it opens where there is no network. What it shows is kept elsewhere: `lasting.ts`. */
declare const self: ServiceWorkerGlobalScope
declare const SHELL: PrecacheEntry[] // written in by the build: every file of the page, by what is in it

precacheAndRoute(SHELL)
cleanupOutdatedCaches()

// the newest page while the server answers, so that an upgrade shows at once; the kept one while it does not
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      try {
        const answer = await fetch(request)
        if (answer.ok) return answer
      } catch {
        // no network
      }
      return (await matchPrecache('/index.html')) ?? Response.error()
    },
    { denylist: [/^\/api\//] },
  ),
)
self.addEventListener('install', () => void self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
