import { execFileSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { choose } from './select'

const FOLDER = '.e2e/import/focus-sheet'
const STRIDE_mm = 1.2
/** Half the depth of a sheet with dots 1 mm apart, at 45°. */
const MIDDLE_mm = 33 * Math.sin(Math.PI / 4)

test('the sheet is printed, its frames are measured, and the stride is kept for plans', async ({ page }) => {
  mkdirSync(FOLDER, { recursive: true })
  const camera = { width_px: 900, height_px: 600, fNumber: 5.6, magnification: 1, mover: 'ring' }
  const positions_mm = [-2, -1, 0, 1].map((step) => MIDDLE_mm + step * STRIDE_mm)
  writeFileSync(`${FOLDER}.json`, JSON.stringify({ scene: 'target', camera, positions_mm }))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', `${FOLDER}.json`, '--out', FOLDER])
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('Focus sheet at 1 : 1')
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.getByLabel('Or a folder on this computer').fill('focus-sheet')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(4)

  await page.goto('/kit')
  await page.getByRole('button', { name: 'Measure with a printed sheet' }).click()
  const dialog = page.getByRole('dialog', { name: 'Measure with a printed sheet' })
  await dialog.getByLabel('Width of the picture on the sheet').fill('34')
  const pdf = await page.request.get((await dialog.getByRole('link', { name: 'Sheet as PDF' }).getAttribute('href'))!)
  expect(pdf.headers()['content-disposition']).toContain('focus-sheet-1-mm.pdf')
  expect((await pdf.body()).subarray(0, 5).toString('latin1')).toBe('%PDF-')
  await choose(page, 'Shoot with the sheet', 'Focus sheet at 1 : 1')
  await dialog.getByRole('button', { name: 'Measure', exact: true }).click()
  const found = dialog.getByRole('region', { name: 'What was measured' })
  await expect(found).toContainText('tilted by 45°')
  const [, stride] = /Focus moves by\s*([\d.]+) mm ± [\d.]+ %/.exec(await found.innerText())!
  expect(Math.abs(Number(stride) / STRIDE_mm - 1)).toBeLessThan(0.03)
  await dialog.getByLabel('Step number of its bracketing').fill('4')
  await dialog.getByRole('button', { name: 'Save the stride' }).click()
  await expect
    .poll(async () => {
      const { calibrations } = (await (await page.request.get('/api/kit')).json()) as {
        calibrations: { name: string; step: number; stride_mm: number }[]
      }
      return calibrations.find(({ name }) => name.includes('sheet of'))
    })
    .toMatchObject({ step: 4, fNumber: 5.6, stride_mm: Number(stride) })
})
