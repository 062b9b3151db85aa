import { createServer, type Server } from 'node:https'
import { request as forward, type IncomingMessage, type ServerResponse } from 'node:http'
import { parseCookie, stringifySetCookie } from 'cookie'
import { say, type Sentence } from '@/core/words'
import type { PairedDevice } from '@/schemas'
import { securityHeaders } from '../guard'
import type { Lan } from '../pairing'
import type { Certificate } from './certificate'
import { pairPage } from './pairPage'

const COOKIE = 'nitidus_device'
const YEAR_s = 365 * 24 * 3600
/** A device that is removed stays out after this. */
const KNOWN_FOR_ms = 1000
/** A code, a name, and what a form adds. */
const MOST_FORM_bytes = 2000

/**
 * What other devices come in through: TLS, this machine's own addresses only, paired devices only; what passes goes on to the
 * application, which itself listens to this machine alone.
 * @param upstream port of the application here.
 */
export function openGate({ addresses, port }: Lan, certificate: Certificate, upstream: number): Server {
  const gate = new Gate(new Set(addresses.map((address) => `${address}:${port}`)), certificate.cert, upstream)
  return createServer({ ...certificate, minVersion: 'TLSv1.2' }, (request, response) => {
    gate.serve(request, response).catch((error: Error) => {
      console.error(error.message)
      if (!response.headersSent) response.writeHead(502)
      response.end()
    })
  })
}

class Gate {
  private readonly known = new Map<string, { device: PairedDevice | null; until_ms: number }>()

  constructor(
    private readonly hosts: ReadonlySet<string>,
    private readonly cert: string,
    private readonly upstream: number,
  ) {}

  async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { method = 'GET', headers } = request
    const host = headers.host ?? ''
    const { pathname, searchParams } = new URL(request.url ?? '/', `https://${host || 'nowhere'}`)
    if (!this.hosts.has(host)) return refuse(response, 403, say('request.host'))
    if (!isOwn(headers.origin, headers['sec-fetch-site'], host, method, pathname)) return refuse(response, 403, say('request.otherSite'))
    // The certificate is no secret: it is what a phone is told to trust.
    if (pathname === '/nitidus.crt') return send(response, 200, this.cert, { 'content-type': 'application/x-x509-ca-cert' })
    // Browsers ask for these without a cookie; there is nothing of anybody's work in them.
    if (pathname === '/manifest.webmanifest' || pathname === '/icon.svg') return this.pass(request, response)
    const token = parseCookie(headers.cookie ?? '')[COOKIE]
    if (pathname === '/pair' && method === 'POST') return this.pair(request, response, token)
    const device = token ? await this.deviceOf(token) : null
    if (pathname === '/pair' && !device) return page(response, 200, { code: searchParams.get('code') ?? '' })
    if (pathname === '/pair') return send(response, 303, '', { location: '/' })
    if (!device) {
      if (pathname.startsWith('/api/') || pathname.startsWith('/_next/')) return refuse(response, 401, say('pairing.needed'))
      return page(response, 401, {})
    }
    if (pathname.startsWith('/api/pairing')) return refuse(response, 403, say('pairing.hereOnly'))
    this.pass(request, response)
  }

  /** On to the application, as if it came from here: everything that would have kept it out was asked above. */
  private pass(request: IncomingMessage, response: ServerResponse): void {
    const own = `127.0.0.1:${this.upstream}`
    const headers = { ...request.headers, host: own, ...(request.headers.origin && { origin: `http://${own}` }) }
    const onward = forward({ host: '127.0.0.1', port: this.upstream, method: request.method, path: request.url, headers }, (answer) => {
      response.writeHead(answer.statusCode ?? 502, answer.headers)
      // Progress comes in small pieces, each of which is to be seen at once.
      response.flushHeaders()
      answer.pipe(response)
    })
    onward.on('error', () => (response.headersSent ? response.destroy() : refuse(response, 502, say('server.inside'))))
    response.on('close', () => onward.destroy())
    request.pipe(onward)
  }

  private async pair(request: IncomingMessage, response: ServerResponse, oldToken?: string): Promise<void> {
    const form = new URLSearchParams(await formOf(request))
    const [code, name] = [form.get('code') ?? '', form.get('name') ?? '']
    const answer = await this.ask<{ token?: string; error?: string }>('claim', { code, name, ...(oldToken && { token: oldToken }) })
    if (!answer.token) return page(response, 403, { code, name, error: answer.error })
    const cookie = stringifySetCookie({ name: COOKIE, value: answer.token, httpOnly: true, secure: true, sameSite: 'lax', path: '/', maxAge: YEAR_s })
    send(response, 303, '', { location: '/', 'set-cookie': cookie })
  }

  private async deviceOf(token: string): Promise<PairedDevice | null> {
    const known = this.known.get(token)
    if (known && known.until_ms > Date.now()) return known.device
    const { device = null } = await this.ask<{ device?: PairedDevice | null }>('check', { token })
    this.known.delete(token)
    // Made-up tokens are not collected.
    if (device) this.known.set(token, { device, until_ms: Date.now() + KNOWN_FOR_ms })
    return device
  }

  private async ask<T>(what: 'claim' | 'check', body: object): Promise<T> {
    const answer = await fetch(`http://127.0.0.1:${this.upstream}/api/pairing/${what}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    return (await answer.json()) as T
  }
}

/** The same rule as the application's own: what asks for data or changes anything comes from our own pages, or from no page. */
function isOwn(origin: string | undefined, site: string | string[] | undefined, host: string, method: string, path: string): boolean {
  if (method === 'GET' && !path.startsWith('/api/')) return true
  return (origin === undefined || origin === `https://${host}`) && (site === undefined || site === 'same-origin' || site === 'none')
}

async function formOf(request: IncomingMessage): Promise<string> {
  const parts: Buffer[] = []
  let length = 0
  for await (const part of request as AsyncIterable<Buffer>) {
    if ((length += part.length) > MOST_FORM_bytes) return ''
    parts.push(part)
  }
  return Buffer.concat(parts).toString('utf8')
}

function page(response: ServerResponse, status: number, shown: Parameters<typeof pairPage>[0]): void {
  send(response, status, pairPage(shown), { 'content-type': 'text/html; charset=utf-8', ...securityHeaders('none'), 'cache-control': 'no-store' })
}

function refuse(response: ServerResponse, status: number, { code, text }: Sentence): void {
  send(response, status, JSON.stringify({ error: text, code }), { 'content-type': 'application/json', 'cache-control': 'no-store' })
}

function send(response: ServerResponse, status: number, body: string, headers: Record<string, string>): void {
  response.writeHead(status, headers).end(body)
}
