import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { DEMO_SHOOTS } from '../demo/scenario'

/** Serious or critical findings of a page, in words. */
async function findings(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze()
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ target, failureSummary }) => `${id} at ${target.join(' ')}: ${failureSummary?.replaceAll('\n', ' ')}`))
}

for (const width of [1280, 390]) {
  test(`every screen can be used by those who do not see it, at ${width} px`, async ({ page, request }) => {
    await page.setViewportSize({ width, height: 844 })
    const { done: _, ...shoot } = DEMO_SHOOTS[0]
    const { id } = await (await request.post('/api/shoots', { data: shoot })).json()
    const steps = ['plan', 'card', 'shoot', 'field', 'result', 'mend', 'deliver'].map((step) => `/shoots/${id}/${step}`)
    const found: string[] = []
    for (const address of ['/', '/shoots/new', '/kit', '/storage', ...steps]) {
      await page.goto(address)
      await expect(page.locator('main')).toBeVisible()
      await page.waitForLoadState('networkidle')
      found.push(...(await findings(page)).map((finding) => `${address}: ${finding}`))
    }
    expect(found).toEqual([])
  })
}
