import { readFile } from 'node:fs/promises'
import type { Page } from '@playwright/test'

/** Waits for the download that a click starts and answers its name and bytes. */
export async function download(page: Page, name: string): Promise<{ fileName: string; contents: Buffer }> {
  const started = page.waitForEvent('download')
  await page.getByRole('button', { name }).click()
  const file = await started
  return { fileName: file.suggestedFilename(), contents: await readFile(await file.path()) }
}
