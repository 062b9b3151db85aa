import { expect, test, type Page } from '@playwright/test'

/** A shoot of a small plan, on its second step. */
async function newShoot(page: Page, title: string) {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill(title)
  await page.getByLabel('Depth, nearest to farthest part').fill('4')
  await page.getByLabel('Blur allowed').fill('5')
  await page.getByLabel('Aperture, as marked').fill('8')
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await expect(page.getByRole('heading', { name: title, exact: true })).toBeVisible()
}

test('a run with faults is checked by itself; the frame is named, left out, used again by hand, and the rest is fused', async ({ page }) => {
  await newShoot(page, 'Lamp that failed')
  await page.getByRole('combobox', { name: 'Faults to switch on' }).click()
  await page.getByTitle('a frame without flash').click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Shoot \d+ frames$/ }).click()
  const run = page.getByRole('region', { name: 'Run 1' })
  const survey = run.getByRole('region', { name: 'Survey' })
  await expect(survey).toContainText('1 left out')
  const flawed = run.locator('[data-role="flawed"]')
  await expect(flawed).toHaveCount(1)
  await expect(flawed).toContainText('did the light fire?')
  await expect(run.getByRole('button', { name: /^Fuse \d+ of these frames$/ })).toBeVisible()

  // Used again and left out, by pointer and by key; the server remembers.
  await flawed.getByRole('button', { name: /^Use again/ }).click()
  await expect(run.getByRole('button', { name: 'Fuse these frames' })).toBeVisible()
  await run.locator('[data-frame]').first().click()
  await page.keyboard.press('x')
  await expect(run.locator('[data-role="aside"]')).toHaveCount(1)
  await page.reload()
  await expect(run.locator('[data-role="aside"]')).toHaveCount(1)
  await run
    .locator('[data-role="aside"]')
    .getByRole('button', { name: /^Use again/ })
    .click()
  await expect(run.locator('[data-role="aside"]')).toHaveCount(0)
  await expect(survey).toContainText('1 left out')

  await run.getByRole('button', { name: 'Fuse these frames' }).click()
  await expect(page.getByTestId('zoom-view')).toHaveAttribute('data-layer', 'fused')
})

test('a run that ends too soon says how much is sharp in no frame, and hatches it on the chosen frame', async ({ page }) => {
  await newShoot(page, 'Battery that gave up')
  await page.getByRole('combobox', { name: 'Faults to switch on' }).fill('battery ends')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Shoot \d+ frames$/ }).click()
  const run = page.getByRole('region', { name: 'Run 1' })
  const survey = run.getByRole('region', { name: 'Survey' })
  const show = survey.getByRole('button', { name: 'Show where nothing is sharp' })
  await expect(show).toBeVisible()
  const [, percent] = /(\d+) % of the picture there/.exec((await survey.textContent())!)!
  await show.click()
  const hatched = page.getByRole('figure', { name: 'The chosen frame' }).locator('svg path')
  // Rectangles of whole parts, a row each: their areas add up to the share that is told.
  const outlines = await hatched.evaluateAll((paths) => paths.map((path) => path.getAttribute('d') ?? ''))
  const parts = outlines.join('').matchAll(/h(\d+)v1/g)
  const area = [...parts].reduce((sum, [, length]) => sum + Number(length), 0)
  expect(Math.abs((100 * area) / (36 * 24) - Number(percent))).toBeLessThan(2)
  await survey.getByRole('button', { name: 'Hide what is sharp in no frame' }).click()
  await expect(hatched).toHaveCount(0)
})
