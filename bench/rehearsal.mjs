import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'

/**
 * Whether a run takes as long as its plan says: the simulated devices take one in real time, sixteen captures a frame by sensor shift, and the
 * clock is read. `npm run bench:rehearsal -- 2` takes a subject of 2 mm.
 */
const [depth_mm = '2'] = process.argv.slice(2)
const CAPTURES = 16
const PORT = 3234
const APP = `http://127.0.0.1:${PORT}`
const folder = mkdtempSync(path.join(tmpdir(), 'rehearsal-'))
const server = spawn(process.execPath, ['scripts/start.mjs', '--no-demo', '--data', folder, '--port', String(PORT)], { stdio: 'ignore' })
const flags = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']
try {
  await answering(`${APP}/api/kit`)
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const { bodies } = await (await page.request.get(`${APP}/api/kit`)).json()
  for (const { id, ...body } of bodies) {
    const answer = await page.request.put(`${APP}/api/kit/bodies?id=${id}`, { data: { ...body, shiftExposures: CAPTURES } })
    if (!answer.ok()) throw new Error(await answer.text())
  }
  await page.goto(`${APP}/shoots/new`)
  await page.getByLabel('Title').fill('Rehearsal')
  await page.getByLabel('Depth, nearest to farthest part').fill(depth_mm)
  await page.getByLabel(/^Sensor shift/).check()
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.waitForURL(/\/shoots\/\d+\/shoot/)
  const shoot = Number(/shoots\/(\d+)/.exec(page.url())[1])
  const asked = async () => (await page.request.get(`${APP}/api/shoots/${shoot}`)).json()
  const { planRequest } = await asked()
  await page.goto(`${APP}/shoots/${shoot}/field`)
  await page.getByRole('button', { name: 'Use the simulated camera' }).click()
  await page.getByRole('button', { name: 'Switch them on' }).click()
  await page.getByAltText('What the simulated camera sees').waitFor()
  await page.getByText('Preparing the scene').waitFor({ state: 'hidden', timeout: 120_000 })
  await page.getByLabel('in real time, as planned').check()
  const begin = Date.now()
  await page.getByRole('button', { name: /automatically/ }).click()
  await page.getByText('The plan is covered.').waitFor({ timeout: 3_600_000 })
  const { field } = await asked()
  const taken = field.filter(({ kind }) => kind === 'taken')
  const took_s = (Math.max(...taken.map(({ at }) => Date.parse(at))) - begin) / 1000
  const { settle_s, delay_s, exposure_s, exposuresPerFrame, write_s } = planRequest.timing
  console.log(
    `${taken.length} frames of ${exposuresPerFrame} captures; settle ${settle_s} s, delay ${delay_s} s, exposure ${exposure_s} s, write ${write_s} s`,
  )
  const planned_s = await plannedSeconds(page, shoot)
  console.log(`planned ${planned_s.toFixed(0)} s, took ${took_s.toFixed(0)} s: ${((100 * took_s) / planned_s - 100).toFixed(1)} %`)
  await browser.close()
} finally {
  server.kill('SIGTERM')
  await new Promise((resolve) => server.once('exit', resolve))
  rmSync(folder, { recursive: true, force: true })
}

/** What the run card says. */
async function plannedSeconds(page, shoot) {
  await page.goto(`${APP}/shoots/${shoot}/card`)
  const text = await page
    .getByText(/frames.*(min|s)\b/)
    .first()
    .textContent()
  console.log(`The card: ${text}`)
  const [, minutes = 0] = /(\d+) min/.exec(text) ?? []
  const [, seconds = 0] = /(\d+) s\b/.exec(text) ?? []
  return 60 * Number(minutes) + Number(seconds)
}

async function answering(url) {
  for (let waited = 0; waited < 600; waited++) {
    if (await fetch(url).then((answer) => answer.ok, () => false)) return // prettier-ignore
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error('The application does not answer.')
}
