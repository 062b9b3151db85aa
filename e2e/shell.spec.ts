import { expect, test } from '@playwright/test'

test('the screen that the server sent is the one that stays, for readers who want no movement too', async ({ page }) => {
  // The first screen there is gets a mark; one that was made anew would not carry it, and would have lost a click.
  await page.addInitScript(() => {
    new MutationObserver((_, observer) => {
      const main = document.querySelector('main')
      if (!main) return
      main.dataset.first = 'yes'
      observer.disconnect()
    }).observe(document, { childList: true, subtree: true })
  })
  for (const reducedMotion of ['reduce', 'no-preference'] as const) {
    await page.emulateMedia({ reducedMotion })
    await page.goto('/')
    await page.waitForLoadState('networkidle')
    await expect(page.locator('main')).toHaveAttribute('data-first', 'yes')
  }
  // And stays when the reader changes her mind.
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await page.waitForTimeout(300)
  await expect(page.locator('main')).toHaveAttribute('data-first', 'yes')
})
