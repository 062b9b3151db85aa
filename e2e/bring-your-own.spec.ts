import { copyFileSync, cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import { seriesFiles } from './series'

const SERIES = path.resolve('.e2e/import/card-1/bristles')

/** Plans a shoot and goes to its second step. */
async function newShoot(page: import('@playwright/test').Page, title: string) {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill(title)
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await expect(page.getByRole('heading', { name: title, exact: true })).toBeVisible()
}

test('files dropped in are fused, whatever else is dropped with them', async ({ page }) => {
  const files = seriesFiles(SERIES)
  await newShoot(page, 'Own frames')
  const broken = path.resolve('.e2e/broken')
  mkdirSync(broken, { recursive: true })
  writeFileSync(path.join(broken, 'letter.jpg'), 'Dear museum,')
  writeFileSync(path.join(broken, 'cut.jpg'), readFileSync(files[0]).subarray(0, 5000))
  writeFileSync(path.join(broken, 'empty.jpg'), '')
  await page.locator('input[type=file]').setInputFiles([...files, ...['letter.jpg', 'cut.jpg', 'empty.jpg'].map((name) => path.join(broken, name))])
  const run = page.getByRole('region', { name: 'Run 1' })
  await expect(run.locator('[data-frame] img')).toHaveCount(files.length)
  await expect(page.getByText('letter.jpg is not a picture we can read')).toBeVisible()
  await expect(page.getByText('cut.jpg is damaged or incomplete')).toBeVisible()
  await expect(page.getByText('empty.jpg is empty')).toBeVisible()

  await run.getByRole('button', { name: 'Fuse these frames' }).click()
  // The finished picture opens by itself.
  await expect(page.getByTestId('zoom-view')).toHaveAttribute('data-layer', 'fused')
  // What comes next is the first thing that Tab reaches after the steps.
  await page.getByRole('link', { name: 'Deliver', exact: true }).focus()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'Finish and deliver this picture' })).toBeFocused()
  await page.getByRole('button', { name: 'Frame 2,' }).click()
  await expect(page.getByTestId('shown')).toContainText('Frame 2, frame_002.jpg')
})

test('a run is not fused before it is known whether more of it is coming in', async ({ page }) => {
  const { id } = await (await page.request.post('/api/shoots', { data: { title: 'Still coming in', plan: null } })).json()
  await page.request.post(`/api/shoots/${id}/import`, { data: { folder: 'card-1/bristles' } })
  const importing = async () => (await (await page.request.get(`/api/shoots/${id}/import`)).json()).import
  await expect.poll(async () => (await importing()).ended?.code).toBe('import.done')
  let answer = () => {}
  const asked = new Promise<void>((resolve) => (answer = resolve))
  await page.route('**/api/shoots/*/import', async (route) => (await asked, route.continue()))
  await page.goto(`/shoots/${id}/shoot`)
  const fuse = page.getByRole('region', { name: 'Run 1' }).getByRole('button', { name: 'Fuse these frames' })
  await expect(fuse).toBeDisabled()
  answer()
  await expect(fuse).toBeEnabled({ timeout: 30_000 })
})

test('many files are paused and go on; how fast they come in, and how long the rest takes, is said', async ({ page }) => {
  const files = seriesFiles(SERIES)
  await newShoot(page, 'A slow card')
  await page.route('**/frames?name=*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 900))
    await route.continue()
  })
  // The run is a while in coming: what is asked for meanwhile holds.
  await page.route('**/api/shoots/*/runs', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 1500))
    await route.continue()
  })
  await page.locator('input[type=file]').setInputFiles(files)
  const log = page.getByRole('log')
  // At once, before the first file is on its way.
  await log.getByRole('button', { name: 'Pause' }).click()
  await page.waitForTimeout(2500)
  await expect(log).toContainText('Paused: 0 of 5 files are through.')
  await log.getByRole('button', { name: 'Go on' }).click()
  await page.waitForTimeout(500)
  // What travels arrives, and nothing sets out after it.
  await log.getByRole('button', { name: 'Pause' }).click()
  await expect(log).toContainText('Paused: 3 of 5 files are through.')
  await page.waitForTimeout(1500)
  await expect(log).toContainText('Paused: 3 of 5 files are through.')
  await log.getByRole('button', { name: 'Go on' }).click()
  await expect(log).toContainText(/Importing file 4 of 5 …\s+[\d.]+ MB a second, about \d+ s left\./)
  await expect(log).toContainText('5 of 5 files imported.')
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(files.length)
})

test('a folder inside the import root is imported, one outside is refused', async ({ page, request }) => {
  seriesFiles(SERIES)
  await newShoot(page, 'From the card')
  await page.getByLabel('Or a folder on this computer').fill('../../..')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByText('is not inside')).toBeVisible()
  await page.getByLabel('Or a folder on this computer').fill('card-1/bristles')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByText('5 of 5 files imported.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(5)

  // One frame alone is refused with a sentence.
  mkdirSync('.e2e/import/lonely', { recursive: true })
  cpSync(path.join(SERIES, 'frame_001.jpg'), '.e2e/import/lonely/frame_001.jpg')
  await page.getByLabel('Or a folder on this computer').fill('lonely')
  await page.getByRole('button', { name: 'Import' }).click()
  const lonely = page.getByRole('region', { name: 'Run 2' })
  await lonely.getByRole('button', { name: 'Fuse these frames' }).click()
  await expect(page.getByText('only one frame')).toBeVisible()

  // The routes themselves: names with dots and paths, numbers that are none.
  const put = (name: string) => request.put(`/api/runs/1/frames?name=${encodeURIComponent(name)}`, { data: 'x' })
  for (const name of ['../a.jpg', 'a/../b.jpg', '']) expect((await put(name)).status()).toBe(400)
  expect((await request.get('/api/shoots/zero')).status()).toBe(404)
  expect((await request.get('/api/tiles/frame-1/..%2f..%2fnitidus.db/0_0.jpeg')).status()).toBe(404)
  const bad = await request.post('/api/shoots', { data: { title: 'x', plan: { optics: {} } } })
  expect((await bad.json()).error).toContain('camera')
})

test('frames enter a shoot by themselves as they come into a watched folder', async ({ page }) => {
  mkdirSync('.e2e/import/tethered', { recursive: true })
  await page.goto('/shoots/frames')
  await page.getByLabel('Title').fill('Tethered')
  await page.getByLabel('Or a folder on this computer').fill('tethered')
  await page.getByRole('button', { name: 'Watch' }).click()
  const status = page.getByRole('region', { name: 'Watched folder' })
  await expect(status).toContainText('no frame yet')
  const files = seriesFiles('.e2e/import/watched-series')
  for (const file of files.slice(0, 3)) copyFileSync(file, path.join('.e2e/import/tethered', path.basename(file)))
  await expect(status).toContainText('3 frames taken')
  await expect(page.getByText('3 frames of 360 × 240 px')).toBeVisible()
  // Checked by itself once no more are coming.
  await expect(page.getByText('3 frames, shot')).toBeVisible()
  await status.getByRole('button', { name: 'Stop watching' }).click()
  await expect(status).toBeHidden()
})

test('on a phone the shoot can be read and started without sideways scrolling', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await newShoot(page, 'Read on a phone')
  for (const step of ['plan', 'shoot', 'result']) {
    await page.goto(page.url().replace(/(plan|shoot|result)$/, step))
    await expect(page.getByRole('heading', { name: 'Read on a phone' })).toBeVisible()
    const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
    expect(overflow).toBeLessThanOrEqual(0)
  }
})
