import { spawnSync } from 'node:child_process'
import { readFileSync, rmSync } from 'node:fs'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import { seriesFiles } from './series'

test('what is deleted comes back from the bin; files that are lost are brought again; a backup is made, taken away and restored', async ({
  page,
  request,
}) => {
  const files = seriesFiles(path.resolve('.e2e/import/card-1/bristles'))
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill('To be kept')
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.locator('input[type=file]').setInputFiles(files)
  const run = page.getByRole('region', { name: 'Run 1' })
  await expect(run.locator('[data-frame] img')).toHaveCount(files.length)
  const shoot = Number(page.url().match(/shoots\/(\d+)/)![1])
  const detail = async () => (await request.get(`/api/shoots/${shoot}`)).json()

  // A run goes to the bin and comes back.
  await run.getByRole('button', { name: 'Delete run 1' }).click()
  await page.getByRole('button', { name: 'Move to the bin' }).click()
  await expect(run).toHaveCount(0)
  await page.getByRole('link', { name: 'Storage' }).click()
  await page.getByRole('button', { name: 'Put back To be kept, run 1' }).click()
  await expect.poll(async () => (await detail()).runs.length).toBe(1)

  // A file that is gone is told by its name, and brought again.
  const { id, frames } = (await detail()).runs[0]
  rmSync(path.join('.e2e/data/runs', String(id), 'frames', frames[1].name))
  await page.getByRole('button', { name: 'Check all frames' }).click()
  await expect(page.getByText('Missing frames: 1, damaged: 0')).toBeVisible()
  await page.goto(`/shoots/${shoot}/shoot`)
  await expect(page.getByText(`A file is missing: ${frames[1].name}`)).toBeVisible()
  await page.locator('.ant-alert input[type=file]').setInputFiles(files[1])
  await expect(page.getByText('A file is missing')).toHaveCount(0)

  // Everything in one file, and nothing missing when it is brought back.
  await page.goto('/storage')
  await page.getByRole('button', { name: 'Make a backup' }).click()
  await expect(page.getByText(/The backup nitidus-all-.* is ready/)).toBeVisible()
  const started = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save a copy' }).first().click()
  const download = await started
  const copy = path.resolve('.e2e/copy.zip')
  await download.saveAs(copy)
  expect(readFileSync(copy).subarray(0, 2).toString()).toBe('PK')
  await page.locator('input[type=file]').setInputFiles(copy)
  await expect(page.getByText('Nothing was missing')).toBeVisible()

  // One shoot alone, as for a colleague.
  await page.getByRole('button', { name: 'Back up one shoot' }).click()
  await page.getByRole('dialog').getByRole('combobox').click()
  await page.locator('.ant-select-item-option', { hasText: 'To be kept' }).first().click()
  await page.getByRole('button', { name: 'Make the backup' }).click()
  const alone = page.getByRole('listitem').filter({ hasText: `nitidus-shoot-${shoot}-` })
  await expect(alone).toBeVisible()
  const sent = page.waitForEvent('download')
  await alone.getByRole('button', { name: 'Save a copy' }).click()
  const one = path.resolve('.e2e/one.zip')
  await (await sent).saveAs(one)
  expect(spawnSync('unzip', ['-l', one]).stdout.toString()).toContain(`runs/${id}/frames/${frames[0].name}`)
})
