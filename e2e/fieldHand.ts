import { expect, type Page } from '@playwright/test'

export const big = (page: Page) => page.locator('[data-phase]')

/** One frame by hand: in place, hands off, pressed when it says so, and taken. */
export async function takeOne(page: Page, next: string): Promise<void> {
  await big(page).click()
  await expect(page.getByText('Press the shutter now')).toBeVisible()
  await big(page).click()
  await expect(page.getByText(next, { exact: false }).first()).toBeVisible()
}

/** One frame with all that belongs to it (filter off, focus, filter on, the exposure counted down), until the next is shown. */
export async function goThrough(page: Page, next: string): Promise<void> {
  await expect(async () => {
    if (await page.getByText(next, { exact: false }).first().isVisible()) return
    await big(page).click({ timeout: 1000 })
    expect(await page.getByText(next, { exact: false }).first().isVisible()).toBe(true)
  }).toPass({ intervals: [100] })
}

/** Waits until the page is kept for offline use with all that it was built of. */
export async function untilKept(page: Page): Promise<void> {
  await page.evaluate(() => navigator.serviceWorker.ready)
  await page.waitForLoadState('networkidle')
  const missing = () =>
    page.evaluate(async () => {
      const parts = performance.getEntriesByType('resource').map(({ name }) => name)
      const needed = [location.href, ...parts.filter((name) => name.includes('/_next/static/') || /\/api\/(shoots\/\d+|kit)$/.test(name))]
      const kept = await Promise.all(needed.map((name) => caches.match(name, { ignoreVary: true })))
      return needed.filter((_, k) => !kept[k])
    })
  await expect.poll(missing).toEqual([])
}
