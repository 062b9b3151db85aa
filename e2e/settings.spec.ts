import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { choose } from './select'
import { seriesFiles } from './series'

async function fuse(page: Page): Promise<void> {
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Fuse these frames' }).click()
}

test('a run is fused with other settings, which the render tells and a preview follows; both renders lie beside each other', async ({ page }) => {
  seriesFiles('.e2e/import/card-1/breeze', 0.4)
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('Settings')
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.getByLabel('Or a folder on this computer').fill('card-1/breeze')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(5)
  await page.getByRole('button', { name: 'Fuse these frames' }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
  await page.goto(page.url().replace(/result.*/, 'shoot'))

  await page.getByRole('button', { name: 'Settings' }).click()
  await choose(page, 'Keep the framing of', 'frame 2, frame_002.jpg')
  await page.getByLabel('Follow parts that moved on their own').uncheck()
  await page.getByLabel('Crop to what all frames show').uncheck()
  await expect(page.getByRole('button', { name: 'Settings · 3' })).toBeVisible()
  await fuse(page)
  const shoot = page.url().match(/shoots\/(\d+)/)![1]
  await expect.poll(async () => (await (await page.request.get(`/api/shoots/${shoot}`)).json()).runs[0].renders.length).toBe(2)

  await page.goto(`/shoots/${shoot}/result`)
  const facts = page.locator('section', { hasText: 'How it was made' })
  await expect(facts).toContainText('frame 2')
  await expect(facts).toContainText(/Parts that moved\s*not followed, in up to/)
  const renders = page.getByRole('region', { name: 'Renders' })
  await expect(renders).toContainText('framed as 2, not cropped')
  await renders.getByRole('link', { name: /framed as 3, moved parts followed/ }).click()
  await expect(facts).toContainText(/Parts that moved\s*followed, up to/)
  // A preview asks how the frames lie, bends included.
  const bends = page.waitForResponse((response) => /\/api\/renders\/\d+\/registration$/.test(response.url()))
  await page.getByRole('button', { name: /^lace/ }).click()
  expect((await bends).status()).toBe(200)
  await expect(page.getByText(/lace: \d+ × \d+ px/)).toBeVisible()
  // What a style leaves open is tried on the same part, and asked for with the whole picture.
  await page.getByText('Tune it').click()
  // What is too weak to count as detail goes dark on the preview, and more of it with a higher floor.
  const brightness = async () => {
    const { channels } = await sharp(await page.getByTestId('zoom-view').screenshot()).stats()
    return channels[1].mean
  }
  const bright = await brightness()
  await page.getByLabel('Darken what does not count as detail').check()
  const floor = page.getByRole('slider', { name: 'What counts as detail' })
  await floor.focus()
  await page.keyboard.press('End')
  await expect.poll(brightness).toBeLessThan(bright - 3)
  await floor.focus()
  for (let step = 0; step < 10; step++) await page.keyboard.press('ArrowLeft')
  await page.getByLabel('Darken what does not count as detail').uncheck()
  await expect(page.getByText(/^lace: \d+ × \d+ px/)).toBeVisible()
  const last = page.getByRole('slider', { name: 'Last slice that is sharp' })
  await last.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByText(/lace, sharp in frames 1 to 4: \d+ × \d+ px/)).toBeVisible()
  await choose(page, 'Where two depths are sharp', 'Of two depths, the near one')
  await expect(page.getByText(/lace, near depth first, sharp in frames 1 to 4: \d+/)).toBeVisible()
  await page.getByRole('button', { name: /^Render the whole picture with lace, near depth first/ }).click()
  const newest = async () => (await (await page.request.get(`/api/shoots/${shoot}`)).json()).runs[0].renders
  await expect.poll(async () => (await newest()).length).toBe(3)
  const { id } = (await newest()).find(({ report }: { report: { style: string } }) => report.style === 'lace')
  const made = (await (await page.request.get(`/api/renders/${id}`)).json()).report
  expect(made.settings).toMatchObject({ prefer: 'near', sharp: { from: 1, to: 4 } })
  expect(made.frames.at(-1).share_percent).toBe(0)
  // It opens by itself; what is laid beside the one before it would go with that.
  await expect(page.getByRole('button', { name: /^lace \(now\)/ })).toBeVisible()
  await renders
    .getByRole('listitem')
    .filter({ hasText: /^auto.*framed as 2/ })
    .getByRole('button', { name: 'compare' })
    .click()
  await expect(page.getByText('right: auto, 5 frames, framed as 2')).toBeVisible()
})
