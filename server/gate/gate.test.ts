import { X509Certificate } from 'node:crypto'
import { createServer, type IncomingMessage } from 'node:http'
import { request } from 'node:https'
import { mkdtemp, rm, stat } from 'node:fs/promises'
import type { AddressInfo } from 'node:net'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { checkServerIdentity, type PeerCertificate } from 'node:tls'
import { Pairing } from '../pairing'
import { certificateFor, type Certificate } from './certificate'
import { openGate } from './gate'

const ADDRESS = '127.0.0.3'
let folder: string
let certificate: Certificate
let pairing: Pairing
let port: number
const servers: { close: () => void; closeAllConnections: () => void }[] = []
/** What came through to the application. */
let passed: { method?: string; url?: string; headers: IncomingMessage['headers']; body: string }[]

beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'gate-'))
  certificate = await certificateFor([ADDRESS], folder)
  // The application, as far as the gate asks it.
  const application = createServer((asked, answer) => {
    void (async () => {
      let body = ''
      for await (const part of asked) body += String(part)
      const { method, url, headers } = asked
      const told = (value: object) => answer.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(value))
      if (url === '/api/pairing/check') return told({ device: (await pairing.deviceOf(JSON.parse(body).token)) ?? null })
      if (url === '/api/pairing/claim') {
        const { code, name, token } = JSON.parse(body)
        return pairing.claim(code, name, token).then(
          (made) => told({ token: made }),
          (error: Error) => told({ error: error.message }),
        )
      }
      passed.push({ method, url, headers, body })
      told({ seen: true })
    })()
  })
  const own = await listening(application, '127.0.0.1')
  // The gate has to know its port before it listens.
  const probe = createServer()
  port = await listening(probe, ADDRESS)
  await new Promise((done) => probe.close(done))
  await listening(openGate({ addresses: [ADDRESS], port }, certificate, own), ADDRESS, port)
})
beforeEach(() => {
  passed = []
  pairing = new Pairing(path.join(folder, `devices-${Math.random()}`), { port, addresses: [ADDRESS] })
})
afterAll(async () => {
  for (const server of servers) {
    server.closeAllConnections()
    server.close()
  }
  await rm(folder, { recursive: true })
})

function listening(server: ReturnType<typeof createServer>, address: string, at = 0): Promise<number> {
  servers.push(server)
  return new Promise((resolve) => server.listen(at, address, () => resolve((server.address() as AddressInfo).port)))
}

interface Answer {
  status: number
  headers: IncomingMessage['headers']
  body: string
}

/** Whatever host a request names, it goes to this address, whose certificate is checked. */
const toAddress = { servername: '', checkServerIdentity: (_: string, found: PeerCertificate) => checkServerIdentity(ADDRESS, found) }

function ask(method: string, url: string, headers: Record<string, string> = {}, body = ''): Promise<Answer> {
  return new Promise((resolve, reject) => {
    // What the phone is told to trust, and nothing else.
    const asked = request({ host: ADDRESS, port, method, path: url, headers, ca: certificate.cert, ...toAddress }, (answer) => {
      let text = ''
      answer.on('data', (part) => (text += String(part)))
      answer.on('end', () => resolve({ status: answer.statusCode!, headers: answer.headers, body: text }))
    })
    asked.on('error', reject)
    asked.end(body)
  })
}

const form = { 'content-type': 'application/x-www-form-urlencoded' }
const pair = (code: string, headers: Record<string, string> = {}) =>
  ask(
    'POST',
    '/pair',
    { ...form, origin: `https://${ADDRESS}:${port}`, ...headers },
    new URLSearchParams({ code, name: 'Phone of the studio' }).toString(),
  )
async function paired(): Promise<string> {
  const { code } = await pairing.offer()
  const { headers } = await pair(code)
  return headers['set-cookie']![0].split(';')[0]
}

test('a device that is not paired gets a page to pair on, and nothing of the application', async () => {
  for (const url of ['/', '/shoots/1/field', '/kit']) {
    const { status, body } = await ask('GET', url)
    expect([status, body.includes('Pair this device')]).toEqual([401, true])
  }
  for (const url of ['/api/shoots', '/api/pairing', '/_next/static/x.js', '/api/frames/1/original']) {
    const { status, body } = await ask('GET', url)
    expect([status, JSON.parse(body).code]).toEqual([401, 'pairing.needed'])
  }
  expect((await ask('POST', '/api/pairing/claim', { 'content-type': 'application/json' }, '{}')).status).toBe(401)
  expect((await ask('GET', '/', { cookie: 'nitidus_device=made-up' })).status).toBe(401)
  expect(passed).toEqual([])
})

test('with the code it is let in, by a cookie that no script and no other site gets hold of', async () => {
  const { code, addresses, qr } = await pairing.offer()
  expect([addresses, qr.includes('<svg')]).toEqual([[`https://${ADDRESS}:${port}`], true])
  // As people type it.
  const { status, headers } = await pair(`${code.slice(0, 4)}${code.slice(4)}`)
  expect([status, headers.location]).toEqual([303, '/'])
  const [cookie] = headers['set-cookie']!
  for (const part of ['HttpOnly', 'Secure', 'SameSite=Lax']) expect(cookie).toContain(part)
  const answer = await ask(
    'PUT',
    '/api/frames/3/aside',
    { cookie: cookie.split(';')[0], origin: `https://${ADDRESS}:${port}`, 'content-type': 'application/json' },
    '{"aside":true}',
  )
  expect([answer.status, answer.body]).toEqual([200, '{"seen":true}'])
  expect(passed).toMatchObject([{ method: 'PUT', url: '/api/frames/3/aside', body: '{"aside":true}' }])
  // The application takes it for one of its own.
  expect(passed[0].headers.host).toMatch(/^127\.0\.0\.1:\d+$/)
  expect(passed[0].headers.origin).toBe(`http://${passed[0].headers.host}`)
  expect(await pairing.list()).toMatchObject([{ name: 'Phone of the studio' }])
})

test('devices are paired and removed on this machine only; one that is removed stays out', async () => {
  const cookie = await paired()
  expect((await ask('GET', '/', { cookie })).status).toBe(200)
  for (const [method, url] of [
    ['POST', '/api/pairing'],
    ['GET', '/api/pairing'],
    ['DELETE', '/api/pairing/x'],
  ]) {
    const { status, body } = await ask(method, url, { cookie })
    expect([status, JSON.parse(body).code]).toEqual([403, 'pairing.hereOnly'])
  }
  const [{ id }] = await pairing.list()
  await pairing.revoke(id)
  await new Promise((resolve) => setTimeout(resolve, 1100))
  expect((await ask('GET', '/', { cookie })).status).toBe(401)
  await expect(pairing.revoke(id)).rejects.toMatchObject({ code: 'pairing.gone' })
})

test('names that others made to point here, and pages from elsewhere, get nothing', async () => {
  const cookie = await paired()
  for (const host of ['evil.example', `evil.example:${port}`, '127.0.0.1:3210', 'localhost'])
    expect(JSON.parse((await ask('GET', '/', { cookie, host })).body).code).toBe('request.host')
  for (const headers of [{ origin: 'https://evil.example' }, { 'sec-fetch-site': 'cross-site' }] as Record<string, string>[])
    expect(JSON.parse((await ask('POST', '/api/shoots', { cookie, ...headers })).body).code).toBe('request.otherSite')
  const { code } = await pairing.offer()
  expect((await pair(code, { origin: 'https://evil.example' })).status).toBe(403)
  expect(passed).toEqual([])
})

test('the certificate is for this address, is handed out, and is made once', async () => {
  const known = new X509Certificate((await ask('GET', '/nitidus.crt')).body)
  expect([known.checkIP(ADDRESS), known.checkIP('127.0.0.4'), known.ca]).toEqual([ADDRESS, undefined, true])
  expect(await certificateFor([ADDRESS], folder)).toEqual(certificate)
  expect((await stat(path.join(folder, 'key.pem'))).mode & 0o077).toBe(0)
  // Another address, or soon over: another certificate.
  expect((await certificateFor([ADDRESS, '127.0.0.4'], folder)).cert).not.toBe(certificate.cert)
  const again = await certificateFor([ADDRESS], await mkdtemp(path.join(folder, 'later-')))
  const inAYear = Date.now() + 370 * 24 * 3600 * 1000
  expect(again.cert).not.toBe(certificate.cert)
  expect(Date.parse(new X509Certificate(again.cert).validTo) - inAYear).toBeLessThan(30 * 24 * 3600 * 1000)
})
