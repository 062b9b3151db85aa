import { expect, type Page } from '@playwright/test'

/** Opens a select by its label and chooses; a click that comes while the list still opens is made again. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  const box = page.getByRole('combobox', { name: label, exact: true })
  await box.click()
  await expect(async () => {
    await page.locator('.ant-select-dropdown:visible').getByTitle(option, { exact: true }).click({ timeout: 3000 })
    await expect(box).toHaveAttribute('aria-expanded', 'false', { timeout: 1500 })
  }).toPass()
}
