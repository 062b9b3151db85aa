import { expect, test } from '@playwright/test'
import { DEMO_SHOOTS } from '../demo/scenario'

/** Most kilobytes of scripts and styles that a page may load, compressed as they are sent. */
const MOST_kB: Record<string, number> = {
  '/': 250,
  '/kit': 450,
  '/logbook': 350,
  '/storage': 300,
  '/phone': 300,
  '/practice': 250,
  '/practice/choose': 400,
  '/shoots/new': 450,
  field: 250,
  plan: 450,
  shoot: 450,
  result: 450,
  mend: 450,
  deliver: 450,
}

test.use({ serviceWorkers: 'block' })

test('every page loads no more scripts and styles than it may', async ({ page, request }) => {
  const { done: _, ...shoot } = DEMO_SHOOTS[0]
  const { id } = await (await request.post('/api/shoots', { data: shoot })).json()
  const tooHeavy: string[] = []
  for (const [where, most_kB] of Object.entries(MOST_kB)) {
    await page.goto(where.startsWith('/') ? where : `/shoots/${id}/${where}`)
    await expect(page.locator('main')).toBeVisible()
    await page.waitForLoadState('networkidle')
    // What the browser has kept from the page before counts as if it were sent again.
    const sent = await page.evaluate(() =>
      (performance.getEntriesByType('resource') as PerformanceResourceTiming[])
        .filter(({ name }) => /\.(js|css)(\?|$)/.test(name))
        .reduce((sum, { encodedBodySize }) => sum + encodedBodySize, 0),
    )
    console.log(`${where}: ${Math.round(sent / 1000)} kB`)
    expect(sent).toBeGreaterThan(50_000)
    if (sent / 1000 > most_kB) tooHeavy.push(`${where} loads ${Math.round(sent / 1000)} kB, ${most_kB} kB at the most`)
  }
  expect(tooHeavy).toEqual([])
})
