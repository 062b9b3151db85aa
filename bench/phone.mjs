import { spawn } from 'node:child_process'
import { X509Certificate, createHash } from 'node:crypto'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'

/**
 * How soon a paired phone shows what happens at the bench: live view after the focus was moved on the computer, and what the check of the run
 * found after it ended. Through the gate with TLS, at 390 × 844. `npm run bench:phone`
 */
const [PORT, LAN_PORT] = [3233, 3446]
const [APP, GATE] = [`http://127.0.0.1:${PORT}`, `https://127.0.0.2:${LAN_PORT}`]
const MOVES = 40
const folder = mkdtempSync(path.join(tmpdir(), 'phone-'))
const lan = ['--lan', '--lan-port', String(LAN_PORT), '--lan-address', '127.0.0.2']
const server = spawn(process.execPath, ['scripts/start.mjs', '--no-demo', '--data', folder, '--port', String(PORT), ...lan], { stdio: 'ignore' })
const flags = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']
try {
  await answering(`${APP}/api/kit`)
  const computer = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags })
  const page = await computer.newPage({ viewport: { width: 1280, height: 800 } })
  const pin = await certificatePin(page)
  const phoneBrowser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [...flags, `--ignore-certificate-errors-spki-list=${pin}`],
  })
  const phone = await phoneBrowser.newPage({ viewport: { width: 390, height: 844 } })
  const shoot = await planned(page)
  await pair(page, phone)
  await phone.goto(`${GATE}/shoots/${shoot}/field`)
  await phone.getByRole('button', { name: 'Use the simulated camera' }).click()
  await phone.getByRole('button', { name: 'Switch them on' }).click()
  const seen = phone.getByAltText('What the simulated camera sees')
  await seen.waitFor()
  await phone.waitForTimeout(3000)
  told('live view', await liveViews(page, phone, shoot))
  await phone.getByRole('button', { name: /automatically/ }).click()
  told('what the check found', [await checkShown(page, phone, shoot)])
  await computer.close()
  await phoneBrowser.close()
} finally {
  server.kill('SIGTERM')
  await new Promise((resolve) => server.once('exit', resolve))
  rmSync(folder, { recursive: true, force: true })
}

/** From when the focus had been moved to the first picture shown that was asked for after that. */
async function liveViews(page, phone, shoot) {
  await phone.evaluate(() => {
    window.shown = []
    const asked = []
    const plain = window.fetch
    window.fetch = async (...call) => {
      const looks = String(call[1]?.body ?? '').includes('"look"')
      if (looks) asked.push(Date.now())
      return plain(...call)
    }
    const image = document.querySelector('img[alt="What the simulated camera sees"]')
    new MutationObserver(() => {
      const at = asked.at(-1)
      image.decode().then(() => requestAnimationFrame(() => window.shown.push({ asked: at, at: Date.now() })))
    }).observe(image, { attributes: true, attributeFilter: ['src'] })
  })
  const moved = []
  for (let k = 0; k < MOVES; k++) {
    const answer = await page.request.post(`${APP}/api/shoots/${shoot}/devices`, { data: { do: 'drive', steps: k % 2 ? -40 : 40 } })
    if (!answer.ok()) throw new Error(await answer.text())
    moved.push(Date.now())
    await page.waitForTimeout(300 + 37 * (k % 9))
  }
  await phone.waitForTimeout(1500)
  const shown = await phone.evaluate(() => window.shown)
  return moved.map((at) => shown.find((picture) => picture.asked >= at).at - at)
}

/** From when the check of a whole run had ended to when its sentence stood on the phone. */
async function checkShown(page, phone, shoot) {
  await phone.evaluate(() => {
    window.found = {}
    const look = () => {
      const text = document.querySelector('section[aria-label="Check"] p')?.textContent ?? ''
      if (text && !text.startsWith('Check')) window.found[text] ??= Date.now()
    }
    new MutationObserver(look).observe(document.body, { subtree: true, childList: true, characterData: true })
  })
  await phone.getByText('The plan is covered.').waitFor({ timeout: 600_000 })
  await phone.waitForTimeout(4000)
  const { jobs } = await (await page.request.get(`${APP}/api/shoots/${shoot}`)).json()
  const ends = jobs.filter(({ kind, state }) => kind === 'survey' && state === 'done').map(({ ended_at }) => Date.parse(ended_at))
  const last = Math.max(...Object.values(await phone.evaluate(() => window.found)))
  // The last sentence that changed came of the newest check before it.
  return last - Math.max(...ends.filter((at) => at <= last))
}

async function planned(page) {
  await page.goto(`${APP}/shoots/new`)
  await page.getByLabel('Title').fill('Bench of the phone')
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.waitForURL(/\/shoots\/\d+\/shoot/)
  return Number(/shoots\/(\d+)/.exec(page.url())[1])
}

async function pair(page, phone) {
  await page.goto(`${APP}/phone`)
  await page.getByRole('button', { name: 'Pair a device' }).click()
  const code = await page.getByText(/^\d{4} \d{4}$/).textContent()
  await phone.goto(`${GATE}/shoots`)
  await phone.getByLabel('Code').fill(code)
  await phone.getByRole('button', { name: 'Pair' }).click()
  await phone.getByRole('heading', { name: 'Shoots' }).waitFor()
}

async function certificatePin(page) {
  const answer = await page.request.get(`${GATE}/nitidus.crt`, { ignoreHTTPSErrors: true })
  const { publicKey } = new X509Certificate(await answer.text())
  return createHash('sha256')
    .update(publicKey.export({ type: 'spki', format: 'der' }))
    .digest('base64')
}

function told(what, times_ms) {
  const sorted = times_ms.toSorted((a, b) => a - b)
  const at = (part) => sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))]
  console.log(`${what}: ${at(0.5)} ms in the middle, ${at(0.95)} ms at the 95th percentile, of ${sorted.length}`)
}

async function answering(url) {
  for (let waited = 0; waited < 600; waited++) {
    if (await fetch(url).then((answer) => answer.ok, () => false)) return // prettier-ignore
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error('The application does not answer.')
}
