import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'

test('a macro plan on a rail: charts, dial, and files to take along', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('beetle wing')
  await expect(page.getByText('Through the series')).toBeVisible()
  await expect(page.getByText('is the smallest opening at which diffraction leaves half')).toBeVisible()
  await expect(page.getByRole('columnheader', { name: 'Dial of the bench rail' })).toBeVisible()
  await expect(page.getByRole('cell', { name: 'turn 0, mark 0', exact: true })).toBeVisible()

  const save = async (name: string) => {
    const started = page.waitForEvent('download')
    await page.getByRole('button', { name }).click()
    const file = await started
    return { name: file.suggestedFilename(), text: await readFile(await file.path(), 'utf8') }
  }
  const count = Number((await page.getByTestId('frame-count').textContent())!.replace(/\D/g, ''))
  const csv = await save('CSV')
  expect(csv.name).toBe('beetle wing.csv')
  expect(csv.text.trim().split('\r\n')).toHaveLength(count + 1)
  expect((await save('G-code')).text).toContain(`frame ${count} of ${count}`)
  expect(JSON.parse((await save('JSON')).text).plan.frameCount).toBe(count)
})

test('a landscape by distances: the ring, infinity, inches and the one-frame verdict', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByText('By distances').click()
  await page.getByLabel('Lens').click()
  await page.getByText('Wide 24 mm').click()
  await page.getByLabel('Aperture, as marked').fill('8')
  await expect(page.getByTestId('verdict')).toContainText('by the focus ring')
  await expect(page.getByRole('cell', { name: '∞' })).toBeVisible()
  await page.getByText('inches', { exact: true }).click()
  await expect(page.getByRole('cell', { name: /″$/ }).first()).toBeVisible()
  await page.getByLabel('Nearest point').fill('90000')
  await expect(page.getByTestId('verdict')).toHaveText('One frame is enough')
})

test('swapped ends, a depth beyond reason and a rail that is too short are said in a sentence each', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Depth, nearest to farthest part').fill('400')
  await expect(
    page
      .getByRole('alert')
      .filter({ hasText: /the rail has 100 mm/ })
      .first(),
  ).toBeVisible()
  await page.getByLabel('Depth, nearest to farthest part').fill('99999999')
  await expect(page.getByRole('alert').filter({ hasText: 'the limit is 2000' }).first()).toBeVisible()
  await page.getByText('By distances').click()
  await page.getByLabel('Farthest point, empty for infinity').fill('300')
  await expect(page.getByRole('alert').filter({ hasText: 'swap the two' }).first()).toBeVisible()
  await expect(page.getByRole('button', { name: /Keep the plan/ })).toBeDisabled()
})

test('the whole plan is made by keyboard', async ({ page }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').focus()
  await page.keyboard.type('Seed, by keyboard')
  await page.keyboard.press('Tab')
  await expect(page.getByLabel('Close up, by depth')).toBeFocused()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Control+A')
  await page.keyboard.type('4.25')
  await expect(page.getByLabel('Depth, nearest to farthest part')).toHaveValue('4.25')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Seed, by keyboard' })).toBeVisible()
})
