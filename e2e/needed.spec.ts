import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import sharp from 'sharp'

const FOLDER = '.e2e/import/dense'

/** A run shot some four times too densely. */
function shoot(): void {
  if (existsSync(`${FOLDER}/truth.json`)) return
  mkdirSync(FOLDER, { recursive: true })
  const scene = '.e2e/import/dense.json'
  const camera = { width_px: 480, height_px: 320, mover: 'ring', fNumber: 4 }
  writeFileSync(scene, JSON.stringify({ scene: 'fossil', seed: 3, camera, positions_mm: Array.from({ length: 21 }, (_, k) => -1 + 0.5 * k) }))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', FOLDER])
}

test('how many frames were needed is told, and where fewer show it is looked at', async ({ page }) => {
  shoot()
  await page.goto('/shoots/frames')
  await page.getByLabel('Or a folder on this computer').fill('dense')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page).toHaveURL(/\/shoots\/\d+\/shoot/)
  await page.getByRole('button', { name: /^Fuse/ }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
  const render = Number(/render=(\d+)/.exec(page.url())![1])

  const panel = page.getByRole('region', { name: 'How many frames were needed' })
  await panel.getByRole('button', { name: 'Find out' }).click()
  await expect(panel.getByText(/would have done: \d+ instead of 21, \d+ frames and \d+ s saved\./)).toBeVisible()
  const { needed } = await (await page.request.get(`/api/renders/${render}/needed`)).json()
  const soft = needed.subsets.find(({ visible }: { visible: boolean }) => visible)
  expect(soft.frames.length).toBeLessThan(needed.fewest.frames)
  await expect(panel.getByRole('listitem')).toHaveCount(needed.subsets.length)

  // The place where most is lost: what is shown there is softer than the picture from all frames.
  await panel
    .getByRole('listitem')
    .filter({ hasText: `${soft.frames.length} frames:` })
    .getByRole('button', { name: 'Look' })
    .click()
  await expect(page.getByTestId('place-mark')).toBeVisible()
  await expect(page.getByTestId('zoom-view')).toHaveAttribute('data-layer', `look-${soft.frames.length}`)
  const { x, y, width, height } = soft.softest
  const [all, few] = await Promise.all(
    [`area?x=${x}&y=${y}&width=${width}&height=${height}`, `look?frames=${soft.frames.length}`].map(async (what) =>
      detail(await (await page.request.get(`/api/renders/${render}/${what}`)).body()),
    ),
  )
  expect(few).toBeLessThan(0.95 * all)
  await page.keyboard.press('f')
  await expect(page.getByTestId('zoom-view')).toHaveAttribute('data-layer', 'fused')

  // It is there after a reload.
  await page.reload()
  await expect(panel.getByText(needed.text.slice(0, 40))).toBeVisible()
})

/** The mean square of what neighbours differ by. */
async function detail(picture: Buffer): Promise<number> {
  const { data } = await sharp(picture).greyscale().raw().toBuffer({ resolveWithObject: true })
  return data.reduce((sum, value, i) => (i > 0 ? sum + (value - data[i - 1]) ** 2 : sum), 0) / data.length
}
