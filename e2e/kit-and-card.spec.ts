import { readFile, writeFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { choose } from './select'

test('the kit is changed, exported and imported, and a plan is made with it', async ({ page }) => {
  await page.goto('/kit')
  const lenses = page.getByRole('region', { name: 'Lenses' })
  await lenses.getByRole('button', { name: 'Add a lens' }).click()
  const form = page.getByRole('dialog')
  await form.getByLabel('Name').fill('Long macro 150 mm')
  const facts = {
    'Focal length': '150',
    'Widest aperture': '22',
    'Smallest opening': '4',
    'Nearest focus, from the sensor': '380',
    'Largest magnification': '1',
    'Pupil ratio': '1',
    'Mount to front rim': '160',
  }
  for (const [label, value] of Object.entries(facts)) await form.getByLabel(label).fill(value)
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(form.getByText('Swap the two')).toBeVisible()
  await form.getByLabel('Widest aperture').fill('4')
  await form.getByLabel('Smallest opening').fill('32')
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(lenses.getByText('Long macro 150 mm', { exact: true })).toBeVisible()

  const started = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Export as JSON' }).click()
  const kit = JSON.parse(await readFile(await (await started).path(), 'utf8'))
  expect(kit.lenses.at(-1)).toMatchObject({ name: 'Long macro 150 mm', focalLength_mm: 150 })

  await lenses.getByRole('button', { name: 'Remove Long macro 150 mm' }).click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(lenses.getByText('Long macro 150 mm', { exact: true })).toHaveCount(0)
  await writeFile('.e2e/kit.json', JSON.stringify(kit))
  await page.locator('input[type=file]').setInputFiles('.e2e/kit.json')
  await page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }).click()
  await expect(lenses.getByText('Long macro 150 mm', { exact: true })).toBeVisible()
  await writeFile('.e2e/kit.json', JSON.stringify({ lenses: [{ name: 'half a lens' }] }))
  await page.locator('input[type=file]').setInputFiles('.e2e/kit.json')
  await expect(page.getByText('Lenses, item 1: Focal length: give a number')).toBeVisible()

  await page.goto('/shoots/new')
  await choose(page, 'Lens', 'Long macro 150 mm')
  await page.getByLabel('Aperture, as marked').fill('3')
  await expect(page.getByRole('alert').filter({ hasText: 'Long macro 150 mm goes from f/4 to f/32' }).first()).toBeVisible()
})

test('the run card of a landscape: positions to tick, cautions, a PDF, and the same again after a reload', async ({ page, request }) => {
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('Trough in the garden')
  await page.getByText('By distances').click()
  await choose(page, 'Lens', 'Wide 24 mm')
  await page.getByLabel('Aperture, as marked').fill('8')
  await page.getByText('Light and time').click()
  await page.getByLabel('Filter', { exact: true }).fill('6')
  await page.getByText('nothing special').click()
  await page.getByLabel('water or tide').check()
  await page.getByRole('button', { name: 'Save and print the run card' }).click()

  const card = page.getByRole('article', { name: 'Run card' })
  await expect(card.getByRole('heading', { name: 'Trough in the garden' })).toBeVisible()
  await expect(card.getByRole('listitem').filter({ hasText: /^(filter off|focus|filter on)$/ })).toHaveText(['filter off', 'focus', 'filter on'])
  await expect(card.getByText('look up the tide')).toBeVisible()
  const rows = await card.getByRole('row').count()
  expect(rows).toBeGreaterThan(3)
  await page.reload()
  await expect(card.getByRole('row')).toHaveCount(rows)

  const id = /shoots\/(\d+)/.exec(page.url())![1]
  const pdf = await request.get(`/api/shoots/${id}/card?units=inches`)
  expect(pdf.headers()['content-type']).toBe('application/pdf')
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')

  // On paper nothing but the sheet: one page, A4.
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
  const printed = (await page.pdf({ preferCSSPageSize: true })).toString('latin1')
  expect(printed.match(/\/Type \/Page\b/g)).toHaveLength(1)

  // The plan comes back as it was filled in.
  await page.emulateMedia({ media: 'screen' })
  await page.goto(`/shoots/${id}/plan`)
  await expect(page.getByLabel('Aperture, as marked')).toHaveValue('8')
  await expect(page.getByText('water or tide').first()).toBeVisible()
})
