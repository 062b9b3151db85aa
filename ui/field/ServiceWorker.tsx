'use client'

import { useEffect } from 'react'

/** Keeps what was opened usable without a connection. */
export function ServiceWorker() {
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return
    navigator.serviceWorker
      .register('/sw.js')
      .then(() => navigator.serviceWorker.ready)
      .then((ready) => {
        // The page that brought the worker in was loaded before it: its parts are handed over to be kept.
        const parts = performance.getEntriesByType('resource').map(({ name }) => name)
        ready.active?.postMessage({ keep: [location.href, ...parts.filter((address) => address.startsWith(location.origin))] })
      })
      .catch(() => undefined)
  }, [])
  return null
}
