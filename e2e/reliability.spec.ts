import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { seriesFiles } from './series'

/** A shoot with one imported run, on its second step. */
async function shootWithFrames(page: Page, title: string): Promise<void> {
  const series = path.resolve('.e2e/import/card-1/bristles')
  seriesFiles(series)
  await page.goto('/shoots/new')
  await page.getByLabel('Title').fill(title)
  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await page.getByLabel('Or a folder on this computer').fill('card-1/bristles')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(5)
}

/** Engines that the tested server started: known by the job files of its data folder, which no other has. */
function engineProcesses(): number[] {
  const { stdout } = spawnSync('pgrep', ['-f', `nitidus.mjs run ${path.resolve('.e2e/data/jobs')}`], { encoding: 'utf8' })
  return stdout.split('\n').filter(Boolean).map(Number)
}

test('an engine that is killed is told in a sentence, and the render runs again', async ({ page }) => {
  await shootWithFrames(page, 'Killed')
  await page.getByRole('button', { name: 'Fuse these frames' }).click()
  await expect(page.getByRole('status')).toContainText(/registering frame|fusing frame/)
  for (const pid of engineProcesses()) process.kill(pid, 'SIGKILL')
  await expect(page.getByText('The frames are untouched; run it again.')).toBeVisible()
  await expect(page.getByRole('region', { name: 'Run 1' }).locator('[data-frame] img')).toHaveCount(5)
  await page.getByRole('button', { name: 'Run it again' }).click()
  await expect(page.getByTestId('zoom-view')).toBeVisible()
})

test('progress survives a reload, and a render can be cancelled from the page that was reloaded', async ({ page }) => {
  await shootWithFrames(page, 'Reloaded')
  await page.getByRole('button', { name: 'Fuse these frames' }).click()
  await expect(page.getByRole('status')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByText('Fusing was cancelled.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Fuse these frames' })).toBeEnabled()
})
