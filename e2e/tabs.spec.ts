import { expect, test } from '@playwright/test'
import { seriesFiles } from './series'
import { fused, storedRun } from './storedRun'

const TABS = 12

test('twelve tabs on one shoot open, and all follow a fuse; when the tab that reads the events closes, another does', async ({
  context,
  request,
}) => {
  const { shoot, run } = await storedRun(request, 'In many tabs', seriesFiles('.e2e/import/tabs'))
  const tabs = []
  for (let k = 0; k < TABS; k++) {
    const tab = await context.newPage()
    await tab.goto(`/shoots/${shoot}/shoot`)
    await expect(tab.getByRole('region', { name: 'Run 1' })).toBeVisible()
    tabs.push(tab)
  }
  // The first tab has the lock.
  await tabs.shift()!.close()
  const render = await fused(request, run)
  const ended = Date.now()
  for (const tab of tabs) await expect(tab).toHaveURL(new RegExp(`/result\\?render=${render}$`))
  console.log(`${tabs.length} tabs followed ${Date.now() - ended} ms after the fuse ended`)
})
