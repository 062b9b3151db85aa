import { spawn } from 'node:child_process'
import { mkdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { chromium } from '@playwright/test'
import sharp from 'sharp'

/**
 * How soon the porthole shows what is under the pointer, and how soon another frame shows in it, on a large picture: from the event to
 * the changed pixels on the canvas, in Debian's Chromium without a graphics card, at 1280 × 800. `npm run bench:hand -- 24`
 */
const PORT = 3232
const MOVES = 120
const [megapixels = '24'] = process.argv.slice(2)
const flags = ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run']
const folder = path.resolve('dist/bench-hand')
rmSync(folder, { recursive: true, force: true })
await makeFrames(path.join(folder, 'import', 'hand'), Number(megapixels))

const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(PORT), '-H', '127.0.0.1'], {
  stdio: 'ignore',
  env: { ...process.env, NITIDUS_DATA: path.join(folder, 'data'), NITIDUS_IMPORT_ROOT: path.join(folder, 'import'), NEXT_TELEMETRY_DISABLED: '1' },
})
try {
  await answering(`http://127.0.0.1:${PORT}/api/kit`)
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  page.setDefaultTimeout(300_000)
  await page.goto(`http://127.0.0.1:${PORT}/shoots/frames`)
  await page.getByLabel('Or a folder on this computer').fill('hand')
  await page.getByRole('button', { name: 'Import' }).click()
  await page.waitForURL(/\/shoots\/\d+\/shoot/)
  await page.getByRole('button', { name: /^Fuse/ }).click()
  await page.waitForURL(/\/result\?render=\d+$/)
  const opened = performance.now()
  await page.goto(page.url().replace(/result\?.*/, 'mend'))
  await page.getByTestId('porthole').waitFor()
  console.log(`${megapixels} MP: opened in ${((performance.now() - opened) / 1000).toFixed(1)} s, its zoom levels made meanwhile`)
  await page.waitForTimeout(4000)
  const box = await page.getByTestId('porthole').boundingBox()
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  for (const zoom of ['whole', '100 %']) {
    await page.getByRole('button', { name: zoom, exact: true }).click()
    await page.mouse.move(middle.x, middle.y)
    await page.waitForTimeout(1500)
    // Each frame is shown once, so that it is there.
    for (const frame of [1, 3, 4]) {
      await page.getByRole('button', { name: new RegExp(`Paint from frame ${frame},`) }).click()
      await page.mouse.move(middle.x, middle.y)
      for (let k = 0; k < 8; k++) {
        await page.mouse.move(middle.x - 200 + 50 * k, middle.y)
        await page.waitForTimeout(200)
      }
      // Its zoom levels are made once, in some seconds, and its tiles fetched.
      await page.waitForLoadState('networkidle')
      await page.waitForTimeout(2000)
    }
    await page.evaluate(watch, ['[data-testid="zoom-view"] canvas'])
    for (let k = 0; k < MOVES; k++) {
      await page.mouse.move(middle.x + (k % 2 ? 110 : -110) + (k % 7), middle.y + (k % 5))
      await page.waitForTimeout(60)
    }
    const moved = await page.evaluate(() => globalThis.taken.splice(0))
    for (let k = 0; k < 30; k++) {
      await page.keyboard.press(k % 2 ? 'ArrowRight' : 'ArrowLeft')
      await page.waitForTimeout(250)
    }
    const chosen = await page.evaluate(() => globalThis.taken.splice(0))
    console.log(`${zoom.padEnd(6)} pointer to pixels: ${figures(moved)}; another frame: ${figures(chosen)}`)
  }
  await provings(page)
  await browser.close()
} finally {
  server.kill()
  rmSync(folder, { recursive: true, force: true })
}

/** How soon the proof of a recipe of eight steps answers a slider whose handle is dragged: a step in the middle. */
async function provings(page) {
  const render = page.url().match(/render=(\d+)/)?.[1] ?? '1'
  const steps = [
    { do: 'light', stops: 0.3 },
    { do: 'tones', points: [[-8, -7.6], [-4, -3.7], [0, 0]] },
    { do: 'gradient', from: [0, 0], to: [2000, 1500], stops: -0.8 },
    { do: 'local', path: [[900, 900], [1800, 1400]], radius_px: 300, softness: 0.7, stops: 0.5 },
    { do: 'colour', strength: 1.1 },
    { do: 'depthGradient', from: 0.8, to: 0.2, stops: -0.4 },
    { do: 'light', stops: -0.1 },
    { do: 'sharpen', radius_px: 3, amount: 0.6, threshold: 0.01 },
  ] // prettier-ignore
  const recipe = { steps, profile: 'keep', bits: 16, quality: 92 }
  await page.request.put(`http://127.0.0.1:${PORT}/api/renders/${render}/recipe`, { data: recipe })
  await page.goto(page.url().replace(/mend.*/, 'deliver'))
  const proof = page.getByTestId('proof')
  await proof.waitFor()
  await page.waitForTimeout(4000)
  // Sharpening, the last step, is left out while a step before it is dragged: it hardly shows at that size.
  for (const [name, sentence] of [['fifth step', 'Colours 110 %']]) {
    await page.getByRole('button', { name: sentence }).first().click()
    const handle = page.getByRole('slider').first()
    await page.waitForTimeout(1000)
    const box = await proof.boundingBox()
    const at = await handle.boundingBox()
    const [x, y] = [at.x + at.width / 2, at.y + at.height / 2]
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.evaluate(watch, ['[data-testid="proof"]', { x: box.x + box.width / 2, y: box.y + box.height / 2 }])
    for (let k = 0; k < 40; k++) {
      await page.mouse.move(x + (k % 2 ? 14 : -14), y)
      await page.waitForTimeout(120)
    }
    await page.mouse.up()
    console.log(`proof, ${name.padEnd(10)} slider to pixels: ${figures(await page.evaluate(() => globalThis.taken.splice(0)))}`)
    await page.reload()
    await page.waitForTimeout(4000)
  }
}

/** In the page: times each move of the pointer, and each arrow key, until the canvas has other pixels there, or at a place that is given. */
function watch([selector, fixed]) {
  const canvas = document.querySelector(selector)
  const context = canvas.getContext('2d')
  globalThis.taken = []
  let place
  const pixelAt = ({ x, y }) => {
    const { left, top, width } = canvas.getBoundingClientRect()
    const scale = canvas.width / width
    return context.getImageData(Math.round((x - left) * scale), Math.round((y - top) * scale), 3, 3).data.join()
  }
  const until = (at, began) => {
    const before = pixelAt(at)
    const look = () => {
      if (pixelAt(at) !== before) globalThis.taken.push(performance.now() - began)
      else if (performance.now() - began < 1000) requestAnimationFrame(look)
    }
    requestAnimationFrame(look)
  }
  const listen = { capture: true }
  globalThis.addEventListener('pointermove', (event) => until((place = fixed ?? { x: event.clientX, y: event.clientY }), event.timeStamp), listen)
  globalThis.addEventListener('keydown', (event) => event.key.startsWith('Arrow') && until(place, event.timeStamp), listen)
}

function figures(values) {
  const sorted = values.toSorted((a, b) => a - b)
  const at = (part) => sorted[Math.floor(part * (sorted.length - 1))]?.toFixed(1)
  return `${sorted.length} times, median ${at(0.5)} ms, 95 % within ${at(0.95)} ms`
}

/** Four frames of noise, each brighter than the one before. */
async function makeFrames(target, size) {
  mkdirSync(target, { recursive: true })
  const width = Math.round(Math.sqrt(size * 1.5e6) / 6) * 6
  const height = Math.round((width * 2) / 3)
  const noise = { type: 'gaussian', mean: 128, sigma: 30 }
  const grain = await sharp({ create: { width: Math.round(width / 12), height: Math.round(height / 12), channels: 3, background: '#808080', noise } })
    .png()
    .toBuffer()
  for (let k = 0; k < 4; k++)
    await sharp(grain)
      .resize(width, height, { fit: 'fill', kernel: 'lanczos3' })
      .blur(1 + 6 * k)
      .jpeg({ quality: 90 })
      .toFile(path.join(target, `frame_${k + 1}.jpg`))
}

async function answering(address) {
  for (let tries = 0; tries < 120; tries++) {
    if (await fetch(address).catch(() => undefined)) return
    await new Promise((resolve) => setTimeout(resolve, 250))
  }
  throw new Error('The application does not start; build it with npm run setup.')
}
