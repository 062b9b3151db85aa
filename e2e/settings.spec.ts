import { expect, test, type Page } from '@playwright/test'
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
  await expect(page).toHaveURL(/\/result\?render=\d+$/, { timeout: 60_000 })
  await page.goto(page.url().replace(/result.*/, 'shoot'))

  await page.getByRole('button', { name: 'Settings' }).click()
  await choose(page, 'Keep the framing of', 'frame 2')
  await page.getByLabel('Follow parts that moved on their own').uncheck()
  await page.getByLabel('Crop to what all frames show').uncheck()
  await expect(page.getByRole('button', { name: 'Settings · 3' })).toBeVisible()
  await fuse(page)
  const shoot = page.url().match(/shoots\/(\d+)/)![1]
  await expect.poll(async () => (await (await page.request.get(`/api/shoots/${shoot}`)).json()).runs[0].renders.length, { timeout: 60_000 }).toBe(2)

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
  await page.getByRole('button', { name: 'lace' }).click()
  expect((await bends).status()).toBe(200)
  await expect(page.getByText(/lace: \d+ × \d+ px/)).toBeVisible({ timeout: 30_000 })
  await renders.getByRole('button', { name: 'compare' }).click()
  await expect(page.getByText('right: auto, 5 frames, framed as 2')).toBeVisible()
})
