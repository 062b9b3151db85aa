import AxeBuilder from '@axe-core/playwright'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { DEMO_SHOOTS } from '../demo/scenario'
import { seriesFiles } from './series'

test('runs enter by themselves; they are noted, found, charted, taken away and planned again', async ({ page, request }) => {
  const files = seriesFiles('.e2e/logbook/frames')
  for (const title of ['Moss on slate', 'Moss on slate, again']) {
    await page.goto('/shoots/frames')
    await page.getByLabel('Title').fill(title)
    await page.locator('input[type=file]').first().setInputFiles(files)
    await expect(page).toHaveURL(/\/shoots\/\d+\/shoot/)
  }
  await page.getByRole('link', { name: 'Logbook' }).click()
  const find = page.getByLabel('Find a run')
  await find.fill('moss slate')
  await expect(page.getByRole('status').filter({ hasText: '2 runs' })).toBeVisible()
  const [newest, older] = [page.getByRole('article').first(), page.getByRole('article').nth(1)]
  await expect(newest).toHaveAccessibleName('Moss on slate, again, run 1')
  await expect(newest).toContainText(/5 frames, 4 s each\./)
  await expect(newest).toContainText('Not fused.')

  // What is noted is there after a reload, and found by.
  await older.getByLabel('Stars for').selectOption('4')
  await older.getByRole('button', { name: 'Add a note' }).click()
  await older.getByLabel('Note', { exact: true }).fill('The lamp stood too low.')
  await older.getByLabel('Tags, with commas between').fill('moss, tray 4')
  await older.getByRole('button', { name: 'Save' }).click()
  await expect(older).toContainText('The lamp stood too low.')
  await page.reload()
  await find.fill('tray lamp')
  await expect(page.getByRole('article')).toHaveCount(1)
  await expect(newest).toHaveAccessibleName('Moss on slate, run 1')
  await expect(newest.getByLabel('Stars for')).toHaveValue('4')
  await find.fill('')
  await page.getByLabel('Stars', { exact: true }).selectOption('4')
  await expect(page.getByRole('article')).toHaveCount(1)
  await find.fill('nowhere at all')
  await expect(page.getByText('No run fits. Search for less.')).toBeVisible()

  await page.getByRole('button', { name: 'Over time' }).click()
  await expect(page.getByRole('region', { name: 'Time a run' }).locator('.recharts-line-dot').first()).toBeVisible()
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id }) => id)).toEqual([])

  // All of it, for a spreadsheet and for other programs.
  const [csv] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'CSV' }).click()])
  expect(csv.suggestedFilename()).toBe('logbook.csv')
  const lines = (await readFile(await csv.path(), 'utf8')).split('\r\n')
  const noted = lines.find((line) => line.startsWith('Moss on slate,'))!
  expect(noted).toMatch(/,4,moss tray 4,The lamp stood too low\.$/)
  const all = await (await request.get('/api/logbook?as=json')).json()
  expect(all.find(({ title }: { title: string }) => title === 'Moss on slate')).toMatchObject({ frames: 5, stars: 4, tags: ['moss', 'tray 4'] })
})

test('a planned run is planned again with one key', async ({ page, request }) => {
  const { runs, id } = await shot(request)
  expect(runs).toBe(1)
  await page.goto('/logbook')
  await page.getByLabel('Find a run').fill('key of p')
  await expect(page.getByRole('status').filter({ hasText: /^1 run$/ })).toBeVisible()
  // By its name: the first of the list may still be another test's, which goes when the answer comes, and the focus with it.
  const entry = page.getByRole('article', { name: 'The key of P, run 1' })
  await expect(entry).toContainText('planned')
  await entry.getByRole('button', { name: 'Add a note' }).focus()
  await page.keyboard.press('p')
  await expect(page).toHaveURL(/\/shoots\/\d+\/plan$/)
  expect(Number(/shoots\/(\d+)/.exec(page.url())![1])).toBeGreaterThan(id)
})

/** A planned shoot with a run of a few frames that were brought. */
async function shot(request: APIRequestContext): Promise<{ id: number; runs: number }> {
  const { done: _, ...shoot } = DEMO_SHOOTS[0]
  const { id } = await (await request.post('/api/shoots', { data: { ...shoot, title: 'The key of P' } })).json()
  const { id: run } = await (await request.post(`/api/shoots/${id}/runs`)).json()
  for (const file of seriesFiles('.e2e/logbook/frames').slice(0, 2)) {
    const taken = await request.put(`/api/runs/${run}/frames?name=${path.basename(file)}`, { data: await readFile(file) })
    expect(taken.ok()).toBe(true)
  }
  return { id, runs: (await (await request.get(`/api/shoots/${id}`)).json()).runs.length }
}
