import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { rmSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import path from 'node:path'
import { expect, test } from '@playwright/test'

/** A request with headers that a browser would not let a page choose. */
function ask(
  address: string,
  method: string,
  headers: Record<string, string>,
  body?: string,
): Promise<{ status: number; body: string; headers: object }> {
  return new Promise((resolve, reject) => {
    const sent = httpRequest(address, { method, headers }, (response) => {
      let text = ''
      response.setEncoding('utf8')
      response.on('data', (part) => (text += part))
      response.on('end', () => resolve({ status: response.statusCode!, body: text, headers: response.headers }))
    })
    sent.on('error', reject)
    sent.end(body)
  })
}

test('a page from elsewhere can neither write here nor read, nor reach us under a name of its own', async ({ baseURL, request }) => {
  const lens = JSON.stringify({ name: 'Stolen', focalLength_mm: 1 })
  const put = `${baseURL}/api/kit/lenses`
  expect((await ask(put, 'PUT', { origin: 'http://evil.example', 'content-type': 'text/plain' }, lens)).status).toBe(403)
  expect((await ask(put, 'PUT', { 'sec-fetch-site': 'cross-site', 'content-type': 'application/json' }, lens)).status).toBe(403)
  for (const address of ['/', '/api/shoots', '/kit', '/sw.js'])
    expect((await ask(`${baseURL}${address}`, 'GET', { host: 'evil.example' })).status).toBe(403)
  expect(await (await request.get('/api/kit')).text()).not.toContain('Stolen')
  expect((await ask(put, 'PUT', { 'content-type': 'text/plain' }, lens)).status).toBe(415)
})

test('every page says what may run in it, and it does; nothing of it is shown within another page', async ({ page }) => {
  const refused: string[] = []
  page.on('console', (message) => message.text().includes('Content Security Policy') && refused.push(message.text()))
  for (const address of ['/', '/shoots/new', '/kit', '/storage']) {
    const response = await page.goto(address)
    expect(response!.headers()['content-security-policy']).toContain("frame-ancestors 'none'")
    expect(response!.headers()['x-content-type-options']).toBe('nosniff')
    await expect(page.locator('main')).toBeVisible()
  }
  await page.goto('/storage')
  await expect(page.getByRole('button', { name: 'Make a backup' })).toBeEnabled()
  expect(refused).toEqual([])
})

/** A server of its own, as `npm start` runs it. */
function serve(folder: string, port: number): ChildProcess {
  return spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(port), '-H', '127.0.0.1'], {
    env: { ...process.env, NITIDUS_DATA: folder, NEXT_MANUAL_SIG_HANDLE: 'true', NEXT_TELEMETRY_DISABLED: '1' },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
}

async function answers(port: number): Promise<void> {
  await expect
    .poll(() =>
      fetch(`http://127.0.0.1:${port}/api/shoots`).then(
        ({ status }) => status,
        () => 0,
      ),
    )
    .toBe(200)
}

test('the application ends at once with a tab open, and a second one on the same data says why it does not start', async () => {
  const folder = path.resolve('.e2e/lifecycle')
  rmSync(folder, { recursive: true, force: true })
  const first = serve(folder, 3231)
  try {
    await answers(3231)
    const open = await fetch('http://127.0.0.1:3231/api/events')
    expect(open.headers.get('content-type')).toBe('text/event-stream')
    const second = serve(folder, 3232)
    let told = ''
    second.stderr!.on('data', (part) => (told += part))
    const [code] = (await once(second, 'exit')) as [number]
    expect(code).toBe(1)
    expect(told).toContain('Another Nitidus already uses the data folder')
    expect((await fetch('http://127.0.0.1:3231/api/shoots')).status).toBe(200)
    const asked = Date.now()
    first.kill('SIGINT')
    await once(first, 'exit')
    expect(Date.now() - asked).toBeLessThan(5000)
    // Nothing holds the folder any more.
    const restore = spawnSync(process.execPath, ['dist/nitidus.mjs', 'restore', 'nowhere.zip'], {
      encoding: 'utf8',
      env: { ...process.env, NITIDUS_DATA: folder },
    })
    expect(restore.stderr).toContain('[archive.missing]')
  } finally {
    first.kill('SIGKILL')
  }
})
