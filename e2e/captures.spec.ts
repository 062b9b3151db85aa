import { execFileSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { choose } from './select'

const CARD = '.e2e/import/captures-card'
const SCENE = { scene: 'nib', seed: 5, files: 'dng', camera: { width_px: 360, height_px: 240, mover: 'rail', fNumber: 5.6, magnification: 0.5 } }

test('a card of captures with a shifted sensor becomes a picture of twice the pixels', async ({ page }) => {
  mkdirSync(CARD, { recursive: true })
  writeFileSync('.e2e/captures-scene.json', JSON.stringify({ ...SCENE, captures: 16, positions_mm: [0, 4, 8, 12] }))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', '.e2e/captures-scene.json', '--out', CARD])

  await page.goto('/shoots/frames')
  await page.getByLabel('Title').fill('Captures from the card')
  await page.getByLabel('Or a folder on this computer').fill('captures-card')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page).toHaveURL(/\/shoots\/\d+\/shoot/)
  const run = page.getByRole('region', { name: 'Run 1' })
  // Looked through for series and for sets by itself.
  await expect(run).toContainText('4 raw frames of 720 × 480 px', { timeout: 60_000 })
  await expect(run).toContainText('Each frame is 16 captures with a shifted sensor.')

  // There and back: nothing is lost.
  await run.getByRole('button', { name: 'Make every capture a frame' }).click()
  await expect(run).toContainText('64 raw frames of 360 × 240 px')
  await run.getByRole('button', { name: 'Split into series' }).click()
  await expect(page.getByText('64 captures with a shifted sensor are 4 frames.')).toBeVisible({ timeout: 60_000 })
  await expect(run).toContainText('4 raw frames of 720 × 480 px')

  await run.getByRole('button', { name: /^Fuse/ }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/, { timeout: 90_000 })
  await expect(page.getByText('16 merged for each frame', { exact: true })).toBeVisible()

  await page.goto(page.url().replace('/result', '/deliver'))
  await choose(page, 'Format', 'PNG')
  const { contents } = await download(page, 'Write the file')
  const { width, height } = await sharp(contents).metadata()
  expect([Math.round(width / 10), Math.round(height / 10)]).toEqual([expect.closeTo(72, -1), expect.closeTo(48, -1)])
})
