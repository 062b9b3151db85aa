import { say, type Sentence } from '@/core/words'

/** Names under which this machine reaches itself; any other name was made to point here by somebody else. */
const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]'])
const READS = new Set(['GET', 'HEAD'])

/** What the guard looks at of a request. */
export interface Asked {
  method: string
  path: string
  header: (name: string) => string | null
}

/**
 * Whether a request may come in: only to this machine's own names (else a page could reach us by a name of its own, "DNS
 * rebinding"), and, where it changes anything or asks for data, only from our own pages. Browsers tell by `Sec-Fetch-Site`
 * (W3C Fetch Metadata) and `Origin` (RFC 6454); a command line tells neither.
 */
export function refusedRequest({ method, path, header }: Asked): Sentence | undefined {
  const host = header('host')
  if (!host || !OWN_NAMES.has(host.replace(/:\d{1,5}$/, '').toLowerCase())) return say('request.host')
  if (READS.has(method) && !path.startsWith('/api/')) return undefined
  const site = header('sec-fetch-site')
  if (site !== null && site !== 'same-origin' && site !== 'none') return say('request.otherSite')
  const origin = header('origin')
  if (origin !== null && origin !== `http://${host}` && origin !== `https://${host}`) return say('request.otherSite')
  return undefined
}

/** Headers of every answer: nothing from elsewhere is run or shown, and nobody shows us within a page of theirs. */
export function securityHeaders(nonce: string): Record<string, string> {
  const policy = {
    'default-src': "'self'",
    // The kernels are WebAssembly.
    'script-src': `'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    // The component library writes its styles into the page.
    'style-src': "'self' 'unsafe-inline'",
    'img-src': "'self' data: blob:",
    'font-src': "'self' data:",
    'worker-src': "'self' blob:",
    'connect-src': "'self'",
    'object-src': "'none'",
    'base-uri': "'none'",
    'form-action': "'self'",
    'frame-ancestors': "'none'",
  }
  return {
    'content-security-policy': Object.entries(policy)
      .map(([what, from]) => `${what} ${from}`)
      .join('; '),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
  }
}
