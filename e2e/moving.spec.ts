import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { expect, test, type APIRequestContext } from '@playwright/test'
import sharp from 'sharp'
import { landscape } from '../core/simulate/landscapes'

const FOLDER = '.e2e/import/windy'

/** A meadow in a wind, whose shrub lies elsewhere in each frame. */
function shoot(): void {
  if (existsSync(`${FOLDER}/truth.json`)) return
  mkdirSync(FOLDER, { recursive: true })
  const scene = '.e2e/import/windy.json'
  const asked = { scene: 'meadow', seed: 3, frames: 5, near_mm: 600, fNumber: 1.4, wind: 1.5, aside_mm: 0.3, width_px: 480 } as const
  writeFileSync(scene, JSON.stringify(landscape(asked)))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', FOLDER])
}

interface Area {
  x: number
  y: number
  width: number
  height: number
}

/** The mean difference of two renders in a rectangle of the picture, of 0 … 255. */
async function apart(request: APIRequestContext, renders: number[], { x, y, width, height }: Area): Promise<number> {
  const [one, other] = await Promise.all(
    renders.map(async (id) => {
      const answer = await request.get(`/api/renders/${id}/area?x=${x}&y=${y}&width=${width}&height=${height}`)
      return sharp(await answer.body())
        .greyscale()
        .raw()
        .toBuffer()
    }),
  )
  return one.reduce((sum, value, i) => sum + Math.abs(value - other[i]), 0) / one.length
}

const reportOf = async (request: APIRequestContext, render: number) => (await request.get(`/api/renders/${render}/json`)).json()
const renderIn = (url: string) => Number(/render=(\d+)/.exec(url)![1])

test('a shrub in the wind is shown from one frame; another is chosen for it, and only that part changes', async ({ page }) => {
  shoot()
  await page.goto('/shoots/frames')
  await page.getByLabel('Or a folder on this computer').fill('windy')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page).toHaveURL(/\/shoots\/\d+\/shoot/)
  await page.getByRole('button', { name: /^Fuse/ }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
  const first = renderIn(page.url())

  const panel = page.getByRole('region', { name: 'Parts that moved' })
  await expect(panel.getByRole('listitem').first()).toContainText('Part 1')
  const report = await reportOf(page.request, first)
  const at = report.parts.findIndex(
    ({ x, width, frame }: { x: number; width: number; frame: string }) => frame === 'frame_004.jpg' && x < 150 && x + width > 150,
  )
  const shrub = report.parts[at]
  // It stands at 2.2 to 2.8 m: the fourth of five slices.
  expect(shrub.area_percent).toBeGreaterThan(5)

  // The part is shown in the picture.
  await panel.getByRole('button', { name: new RegExp(`^Part ${at + 1} `) }).click()
  await expect(page.getByTestId('place-mark')).toBeVisible()

  await panel.getByRole('combobox', { name: `Frame that shows part ${at + 1}` }).click()
  const [other] = shrub.others
  await page.getByText(new RegExp(`^frame ${Number(other.frame.slice(6, 9))},`)).click()
  await panel.getByRole('button', { name: 'Fuse again with this frame' }).click()
  await expect.poll(() => renderIn(page.url())).toBeGreaterThan(first)
  const second = renderIn(page.url())
  const again = await reportOf(page.request, second)
  expect(again.parts[at]).toMatchObject({ x: shrub.x, y: shrub.y, frame: other.frame })

  // As pixels: the shrub is another moment's, the sky and the wall's left end are as they were.
  const { crop } = report
  const inShrub = { x: Math.round(shrub.x + 0.3 * shrub.width) - crop.x, y: Math.round(shrub.y + 0.3 * shrub.height) - crop.y, width: 60, height: 50 }
  expect(await apart(page.request, [first, second], inShrub)).toBeGreaterThan(6)
  expect(await apart(page.request, [first, second], { x: 380, y: 10, width: 60, height: 50 })).toBeLessThan(0.5)
})
