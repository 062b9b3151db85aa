import type { Page } from '@playwright/test'
import type { Opened } from './mendRun'

/** Where a render is delivered from. */
export const deliverOf = ({ render, address }: Opened): Opened => ({ render, address: `${address.replace(/mend$/, 'deliver')}?render=${render}` })

/** The recipe of a render as the application keeps it. */
export const keptRecipe = async (page: Page, render: number) => (await page.request.get(`/api/renders/${render}/recipe`)).json()

/** Adds a step to the recipe that is open. */
export async function add(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a step' }).click()
  await page.getByRole('menuitem', { name, exact: true }).click()
}
