// The service worker: keeps the page's files, so that it opens and reloads while the server is away.
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { CacheFirst } from 'workbox-strategies'

declare const self: ServiceWorkerGlobalScope

precacheAndRoute(__KEPT_FILES__)
cleanupOutdatedCaches()
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/(api|pair)\b/] }))
// fonts of other scripts are large, and kept once a sheet has needed them
registerRoute(/\/assets\/.*\.woff$/, new CacheFirst({ cacheName: 'fonts' }))

// a newer release waits until the person takes it (offline.ts)
self.addEventListener('message', ({ data }: { data: { type?: unknown } | null }) => {
  if (data?.type === 'SKIP_WAITING') void self.skipWaiting()
})
