import { ExpirationPlugin } from 'workbox-expiration'
import type { WorkboxPlugin } from 'workbox-core'
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

const THIRTY_DAYS_S = 30 * 24 * 3600

/** Without an end, every version of the application and every shoot ever opened would stay in the browser. */
const expiry = (maxEntries: number) => new ExpirationPlugin({ maxEntries, maxAgeSeconds: THIRTY_DAYS_S, purgeOnQuotaError: true })

const pages = new NetworkFirst({ cacheName: PAGES, networkTimeoutSeconds: 4, plugins: [expiry(200)] })
const data = new NetworkFirst({ cacheName: DATA, networkTimeoutSeconds: 4, plugins: [expiry(400)] })
/**
 * A worker takes its address, and in it what it is to load, from the answer: from one that was kept it would be the address of whichever worker
 * asked first. An answer without an address leaves each its own.
 */
const ownAddress: WorkboxPlugin = {
  handlerWillRespond: async ({ request, response }) => (request.destination === 'worker' ? new Response(response.body, response) : response),
}

const parts = new CacheFirst({ cacheName: PARTS, plugins: [expiry(2000), ownAddress] })

registerRoute(({ request }) => request.mode === 'navigate', pages)
registerRoute(({ url }) => /^\/api\/(shoots(\/\d+)?|kit)$/.test(url.pathname), data)
registerRoute(({ url }) => /^\/api\/frames\/\d+\/thumb$/.test(url.pathname) && url.searchParams.has('uid'), parts)
registerRoute(({ url }) => url.pathname.startsWith('/_next/static/'), parts)
registerRoute(({ url, request }) => url.searchParams.has('_rsc') || request.headers.get('rsc') !== null, data)

self.addEventListener('install', () => void self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
self.addEventListener('message', (event) => {
  const { keep } = event.data as { keep?: string[] }
  if (keep) event.waitUntil(Promise.all(keep.map((address) => keepOne(address, event))))
})

/** Fetches an address once more and puts it where its route looks for it. */
async function keepOne(address: string, event: ExtendableEvent): Promise<void> {
  const { pathname } = new URL(address)
  const isData = pathname.startsWith('/api/')
  if (isData && !/^\/api\/(shoots\/\d+|kit)$/.test(pathname)) return
  const route = pathname.startsWith('/_next/static/') ? parts : isData ? data : pages
  // Handled by the route itself, so that what is kept here has the same end. What cannot be fetched now is left out.
  await route.handle({ event, request: new Request(address) }).catch(() => undefined)
}
