import { expect, test, type Page } from '@playwright/test'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { NIB } from '../demo/scenario'
import { takeOne } from './fieldHand'

test.use({ serviceWorkers: 'allow' })

const FOLDER = path.resolve('.e2e/card-file')

async function newShoot(page: Page, title: string): Promise<number> {
  const { subject, scene, plan, sheet } = NIB
  return (await (await page.request.post('/api/shoots', { data: { title, subject, scene, plan, sheet } })).json()).id
}

/** The card of a shoot as a file on this disk, as a phone's storage holds it. */
async function cardOf(page: Page, id: number): Promise<string> {
  await page.goto(`/shoots/${id}/field`)
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Take along as one file' }).click()])
  await mkdir(FOLDER, { recursive: true })
  const file = path.join(FOLDER, `${id} ${download.suggestedFilename()}`)
  await download.saveAs(file)
  return `file://${encodeURI(file)}`
}

/** Asked by the page itself: a connection that lay idle for long is opened again by a browser. */
const kindsOf = (page: Page, id: number): Promise<string[]> =>
  page.evaluate(async (shoot) => {
    const { field } = (await (await fetch(`/api/shoots/${shoot}`)).json()) as { field: { kind: string }[] }
    return field.map(({ kind }) => kind)
  }, id)

test('the run card as one file works without the application, and its log comes home as a file and as photographed codes', async ({
  page,
  context,
}) => {
  const id = await newShoot(page, 'Nib far from <any> desk')
  const address = await cardOf(page, id)
  await context.setOffline(true)
  const card = await context.newPage()
  await card.setViewportSize({ width: 390, height: 844 })
  await card.goto(address)
  await expect(card.getByRole('heading', { name: 'Nib far from <any> desk' })).toBeVisible()
  await expect(card.getByText('Frame 1 of 21')).toBeVisible()
  expect(await card.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await takeOne(card, 'Frame 2 of 21')
  await takeOne(card, 'Frame 3 of 21')
  // Open twice, it is one log; opened again, it goes on where it was.
  const twin = await context.newPage()
  await twin.goto(address)
  await expect(twin.getByText('Frame 3 of 21')).toBeVisible()
  await card.bringToFront()
  await card.reload()
  await expect(card.getByText('Frame 3 of 21')).toBeVisible()
  await card.getByRole('button', { name: 'Skip this frame' }).click()
  await expect(card.getByText('Frame 4 of 21')).toBeVisible()
  await expect(twin.getByText('Frame 4 of 21')).toBeVisible()
  await twin.close()
  const [saved] = await Promise.all([card.waitForEvent('download'), card.getByRole('button', { name: 'Save the log as a file' }).click()])
  const log = path.join(FOLDER, 'log.json')
  await saved.saveAs(log)

  await context.setOffline(false)
  await page.bringToFront()
  const files = page.getByLabel('The log’s file, or pictures of its codes')
  await files.setInputFiles(log)
  await expect(page.getByText('3 entries are here now.')).toBeVisible()
  await expect(page.getByText('Frame 4 of 21')).toBeVisible()
  expect(await kindsOf(page, id)).toEqual(['taken', 'taken', 'missed'])
  // A second time it changes nothing.
  await files.setInputFiles(log)
  await expect(page.getByText('3 entries are here now.')).toBeVisible()
  expect(await kindsOf(page, id)).toHaveLength(3)

  // More, so that one code does not hold it; each is photographed off the phone's screen.
  await card.bringToFront()
  for (let k = 0; k < 16; k++) await card.getByRole('button', { name: 'Skip this frame' }).click()
  await card.getByRole('button', { name: 'Show it as codes' }).click()
  const code = card.getByRole('img', { name: /^Code 1 of/ })
  await expect(code).toBeVisible()
  const count = Number(/of (\d+)/.exec((await code.getAttribute('alt'))!)![1])
  expect(count).toBeGreaterThan(1)
  const pictures: string[] = []
  for (let k = 1; k <= count; k++) {
    const picture = path.join(FOLDER, `code ${k}.png`)
    const shown = card.getByRole('img', { name: `Code ${k} of ${count}` })
    await expect(shown).toBeVisible()
    await shown.scrollIntoViewIfNeeded()
    await card.screenshot({ path: picture })
    pictures.push(picture)
    await card.getByRole('button', { name: 'Next code' }).click()
  }
  await page.bringToFront()
  await files.setInputFiles(pictures.slice(1))
  await expect(page.getByRole('alert').filter({ hasText: `Code 1 of ${count} is missing` })).toBeVisible()
  await files.setInputFiles(pictures.toReversed())
  await expect(page.getByText('19 entries are here now.')).toBeVisible()
  expect(await kindsOf(page, id)).toEqual(['taken', 'taken', ...Array(17).fill('missed')])

  // Another shoot does not take it, and neither is a file taken for a log that is none.
  const other = await newShoot(page, 'Another nib')
  await page.goto(`/shoots/${other}/field`)
  await files.setInputFiles(log)
  await expect(page.getByRole('alert').filter({ hasText: 'of another shoot, Nib far from <any> desk' })).toBeVisible()
  const none = path.join(FOLDER, 'none.json')
  await writeFile(none, JSON.stringify({ recipe: 1 }))
  await files.setInputFiles(none)
  await expect(page.getByRole('alert').filter({ hasText: 'holds no log' })).toBeVisible()
  expect(await kindsOf(page, other)).toEqual([])
  expect(JSON.parse(await readFile(log, 'utf8')).entries).toHaveLength(3)
})
