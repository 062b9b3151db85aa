import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { DEMO_SHOOTS } from '../demo/scenario'

/** Serious or critical findings of a page, in words, without some rules. */
async function findings(page: Page, without: string[] = []): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).disableRules(without).analyze()
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ target, failureSummary }) => `${id} at ${target.join(' ')}: ${failureSummary?.replaceAll('\n', ' ')}`))
}

const OWN = ['/', '/shoots/new', '/kit', '/logbook', '/practice', '/practice/byHand', '/practice/fiveMinutes', '/storage', '/phone']
const OF_A_SHOOT = ['plan', 'card', 'shoot', 'field', 'result', 'mend', 'deliver']

for (const [screens, of] of [
  [OWN, 'the application'],
  [OF_A_SHOOT, 'a shoot'],
] as const)
  test(`every screen of ${of} can be used by those who do not see it, at 1280 and 390 px`, async ({ page, request }) => {
    const { done: _, ...shoot } = DEMO_SHOOTS[0]
    const { id } = await (await request.post('/api/shoots', { data: shoot })).json()
    const found: string[] = []
    for (const screen of screens) {
      const address = screen.startsWith('/') ? screen : `/shoots/${id}/${screen}`
      await page.setViewportSize({ width: 1280, height: 844 })
      await page.goto(address)
      await expect(page.locator('main')).toBeVisible()
      await page.waitForLoadState('networkidle')
      found.push(...(await findings(page)).map((finding) => `${address} at 1280: ${finding}`))
      await page.setViewportSize({ width: 390, height: 844 })
      // What is shown on wide screens only goes in the next frame.
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
      // Colours are the same at every width, and take most of the time.
      found.push(...(await findings(page, ['color-contrast'])).map((finding) => `${address} at 390: ${finding}`))
    }
    expect(found).toEqual([])
  })
