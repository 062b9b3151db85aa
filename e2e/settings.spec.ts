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
  await page.getByRole('button', { name: 'Keep the plan and go to the shoot' }).click()
  await page.getByLabel('Or a folder on this machine').fill('card-1/breeze')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(5)
  await page.getByRole('button', { name: 'Fuse these frames' }).click()
  await page.getByRole('button', { name: 'Look at the result' }).waitFor({ timeout: 60_000 })

  await page.getByRole('button', { name: 'Settings' }).click()
  await choose(page, 'Frame to frame by', 'frame 2')
  await page.getByLabel('Follow parts that moved on their own').uncheck()
  await page.getByLabel('Cut to what all frames show').uncheck()
  await expect(page.getByRole('button', { name: 'Settings · 3' })).toBeVisible()
  await fuse(page)
  const shoot = page.url().match(/shoots\/(\d+)/)![1]
  await expect.poll(async () => (await (await page.request.get(`/api/shoots/${shoot}`)).json()).runs[0].renders.length, { timeout: 60_000 }).toBe(2)

  await page.goto(`/shoots/${shoot}/result`)
  const facts = page.locator('section', { hasText: 'How it was made' })
  await expect(facts).toContainText('frame 2')
  await expect(facts).toContainText(/Parts that moved\s*not followed, in up to/)
  const renders = page.getByRole('region', { name: 'Renders' })
  await expect(renders).toContainText('onto 2, uncut')
  await renders.getByRole('link', { name: /onto 3, moved parts followed/ }).click()
  await expect(facts).toContainText(/Parts that moved\s*followed, up to/)
  // A preview asks how the frames were bent.
  const bends = page.waitForResponse((response) => /\/api\/renders\/\d+\/bends$/.test(response.url()))
  await page.getByRole('button', { name: 'lace' }).click()
  expect((await bends).status()).toBe(200)
  await expect(page.getByText(/lace: \d+ × \d+ px/)).toBeVisible({ timeout: 30_000 })
  await renders.getByRole('button', { name: 'compare' }).click()
  await expect(page.getByText('right: auto, 5 frames onto 2')).toBeVisible()
})
