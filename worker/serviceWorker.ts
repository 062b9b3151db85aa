import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'

/**
 * Keeps what was opened: pages and the shoots' data from the application where it answers, else as last seen; parts of
 * the application that never change under their address, and small pictures, from what is kept.
 */
declare const self: ServiceWorkerGlobalScope

const PAGES = 'pages'
const DATA = 'data'
const PARTS = 'parts'

const pages = new NetworkFirst({ cacheName: PAGES, networkTimeoutSeconds: 4 })
const data = new NetworkFirst({ cacheName: DATA, networkTimeoutSeconds: 4 })
const parts = new CacheFirst({ cacheName: PARTS })

registerRoute(({ request }) => request.mode === 'navigate', pages)
registerRoute(({ url }) => /^\/api\/(shoots(\/\d+)?|kit)$/.test(url.pathname), data)
registerRoute(({ url }) => /^\/api\/frames\/\d+\/thumb$/.test(url.pathname), parts)
registerRoute(({ url }) => url.pathname.startsWith('/_next/static/'), parts)
registerRoute(({ url, request }) => url.searchParams.has('_rsc') || request.headers.get('rsc') !== null, data)

self.addEventListener('install', () => void self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
self.addEventListener('message', (event) => {
  const { keep } = event.data as { keep?: string[] }
  if (keep) event.waitUntil(Promise.all(keep.map(keepOne)))
})

/** Fetches an address once more and puts it where its route looks for it. */
async function keepOne(address: string): Promise<void> {
  const { pathname } = new URL(address)
  const name = pathname.startsWith('/_next/static/') ? PARTS : pathname.startsWith('/api/') ? DATA : PAGES
  if (name === DATA && !/^\/api\/(shoots\/\d+|kit)$/.test(pathname)) return
  const cache = await caches.open(name)
  const response = await fetch(address).catch(() => undefined)
  if (response?.ok) await cache.put(address, response)
}
