import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'

test('a first visit goes through a whole series, from the offer to a file, with its words explained', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Shoot your first series in five minutes' }).click()
  await expect(page).toHaveURL(/\/shoots\/\d+\/plan$/)
  const guide = page.getByRole('region', { name: 'Your first series' })
  await expect(guide).toContainText('what one frame holds sharp')
  await page.getByRole('button', { name: 'Save this plan' }).click()
  await expect(page).toHaveURL(/\/shoot$/)
  await expect(guide).toContainText('one captured series')
  await page.getByRole('button', { name: /^Shoot \d+ frames$/ }).click()
  await page.getByRole('button', { name: 'Fuse these frames' }).first().click()
  await expect(page).toHaveURL(/\/result/)
  await expect(guide).toContainText('which frame shows where')
  await guide.getByRole('link', { name: 'Go on to Mend' }).click()
  await expect(guide).toContainText('through it you see what you would paint')
  await guide.getByRole('link', { name: 'Go on to Deliver' }).click()
  const { contents } = await download(page, 'Write the file')
  expect((await sharp(contents).metadata()).width).toBeGreaterThan(900)
  await guide.getByRole('link', { name: 'Practise a step' }).click()
  await expect(page.getByRole('heading', { name: 'Practice' })).toBeVisible()
  // It is offered once.
  await page.goto('/')
  await expect(page.getByRole('heading', { name: 'My first series' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'First visit' })).toHaveCount(0)
})

test('who does not want the guide is not asked again, and sees none', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Not now' }).click()
  await expect(page.getByRole('region', { name: 'First visit' })).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Shoots' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'First visit' })).toHaveCount(0)
})
