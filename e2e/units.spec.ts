import { expect, test } from '@playwright/test'

test('inches are chosen once, hold on every screen and after a reload, and change no plan', async ({ page }) => {
  await page.goto('/shoots/new')
  const frames = page.getByTestId('frame-count')
  const before = await frames.textContent()
  await page.getByText('in', { exact: true }).click()
  await expect(page.getByText('inches from the near edge')).toBeVisible()
  await expect(page.getByTestId('stride')).toContainText('″')
  expect(await frames.textContent()).toBe(before)

  // Written in inches, in millimetres, in fractions: the field takes them all.
  const depth = page.getByLabel('Depth, nearest to farthest part')
  await depth.fill('3/8')
  await page.getByLabel('Title').focus()
  await expect(depth).toHaveValue('3/8″')
  await depth.fill('9 mm')
  await page.getByLabel('Title').focus()
  await expect(depth).toHaveValue('0.3543″')

  await page.reload()
  await expect(page.getByText('inches from the near edge')).toBeVisible()
  await page.getByText('mm', { exact: true }).first().click()
  await expect(page.getByText('mm from the near edge')).toBeVisible()
})

test('the kit is changed by keyboard', async ({ page }) => {
  await page.goto('/kit')
  const lights = page.getByRole('region', { name: 'Lights' })
  await lights.getByRole('button', { name: 'Add a light' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog').getByLabel('Name')).toBeFocused()
  await page.keyboard.type('North window')
  await page.keyboard.press('Enter')
  await expect(lights.getByText('North window', { exact: true })).toBeVisible()
  await lights.getByRole('button', { name: 'Change North window' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog').getByLabel('Name')).toBeFocused()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('South window')
  await page.keyboard.press('Enter')
  await expect(lights.getByText('South window', { exact: true })).toBeVisible()
  await expect(lights.getByText('North window', { exact: true })).toHaveCount(0)
})
