import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'

/**
 * How long a keystroke takes on the plan screen with some 500 slices: from the input event to verdict, side view and
 * ribbon being committed and laid out, in Debian's Chromium on the built application. `npm run bench:plan`
 */
const PORT = 3231
const KEYSTROKES = 80
const flags = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']

const data = mkdtempSync(path.join(tmpdir(), 'bench-'))
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(PORT), '-H', '127.0.0.1'], {
  stdio: 'ignore',
  env: { ...process.env, NITIDUS_DATA: data, NEXT_TELEMETRY_DISABLED: '1' },
})
try {
  await answering(`http://127.0.0.1:${PORT}/api/kit`)
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`http://127.0.0.1:${PORT}/shoots/new`)
  await page.getByRole('combobox', { name: 'Rail', exact: true }).click()
  await page.getByTitle('Motor rail', { exact: true }).last().click()
  await page.getByLabel('Overlap of neighbouring slices').fill('62')
  await page.getByLabel('Depth, nearest to farthest part').fill('70')
  for (const panel of ['Figures', 'Aperture and blur', 'Every frame', 'Light, time, load']) {
    await page.getByRole('tab', { name: panel }).click()
    await page.waitForTimeout(1000)
    const slices = /\d+/.exec(await page.getByRole('group', { name: /^Depth ribbon/ }).getAttribute('aria-label'))[0]
    const { commit, settled } = await page.evaluate(typing, KEYSTROKES)
    console.log(
      `${panel.padEnd(18)} ${slices} slices   keystroke to redrawn: median ${at(commit, 0.5)} ms, 90 % within ${at(commit, 0.9)} ms   panel below too: median ${at(settled, 0.5)} ms`,
    )
  }
  await browser.close()
} finally {
  server.kill()
  rmSync(data, { recursive: true, force: true })
}

function at(values, part) {
  return values.toSorted((a, b) => a - b)[Math.floor(part * (values.length - 1))].toFixed(1)
}

async function answering(address) {
  for (let tries = 0; tries < 120; tries++) {
    if (await fetch(address).catch(() => undefined)) return
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  throw new Error('The application does not start; build it with npm run setup.')
}

/** In the page: types depths that differ a little, and times each until the verdict is new and laid out. */
async function typing(keystrokes) {
  const field = document.querySelector('#plan-depth_mm')
  const setValue = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
  const ribbon = () => document.querySelector('[aria-label^="Depth ribbon"] linearGradient').getAttribute('x2')
  const commit = []
  const settled = []
  field.focus()
  for (let k = 0; k < keystrokes; k++) {
    const before = ribbon()
    const start = performance.now()
    setValue.call(field, String(66 + (k % 7) + 0.5))
    field.dispatchEvent(new Event('input', { bubbles: true }))
    await Promise.resolve()
    document.body.getBoundingClientRect()
    commit.push(performance.now() - start)
    if (ribbon() === before && k > 0) throw new Error('The ribbon did not follow the keystroke.')
    await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
    settled.push(performance.now() - start)
    await new Promise((resolve) => setTimeout(resolve, 60))
  }
  return { commit, settled }
}
