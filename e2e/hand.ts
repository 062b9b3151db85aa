import { expect, type Locator, type Page } from '@playwright/test'

/** A user's hand on a page: what it clicks and types is counted, so that a way through the application can be compared with another. */
export class Hand {
  clicks = 0
  keys = 0
  private readonly begun = Date.now()

  constructor(readonly page: Page) {}

  async click(what: Locator): Promise<void> {
    await what.click()
    this.clicks++
  }

  /** Types into what has the focus already. */
  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text)
    this.keys += text.length
  }

  async press(key: string, times = 1): Promise<void> {
    for (let time = 0; time < times; time++) await this.page.keyboard.press(key)
    this.keys += times
  }

  /** Clicks into a field, and types over what stands there. */
  async fill(field: Locator, text: string): Promise<void> {
    await field.click({ clickCount: 3 })
    this.clicks++
    await this.type(text)
  }

  /** Chooses from a list: one click to open it, one on the choice. */
  async choose(label: string, option: string): Promise<void> {
    const box = this.page.getByRole('combobox', { name: label, exact: true })
    await box.click()
    await expect(async () => {
      await this.page.locator('.ant-select-dropdown:visible').getByTitle(option, { exact: true }).click({ timeout: 3000 })
      await expect(box).toHaveAttribute('aria-expanded', 'false', { timeout: 1500 })
    }).toPass()
    this.clicks += 2
  }

  /** What a task took, for the log of the run. */
  tell(task: string): void {
    console.log(`${task}: ${this.clicks} clicks, ${this.keys} keys, ${Math.round((Date.now() - this.begun) / 1000)} s`)
  }
}
