import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { NIB } from '../demo/scenario'
import { Hand } from './hand'
import { seriesFiles } from './series'

/** The second five of ten tasks of a first hour, done from the screens alone; each tells how many clicks and keys it took. */

const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name })

async function newShoot(page: Page, shoot: object): Promise<number> {
  return (await (await page.request.post('/api/shoots', { data: shoot })).json()).id
}
const kept = ({ title, subject, scene, plan, sheet }: typeof NIB, change: object = {}) => ({ title, subject, scene, plan, sheet, ...change })

test('6 ways to ten frames', async ({ page }) => {
  await page.goto('/shoots/new')
  const hand = new Hand(page)
  await hand.click(page.getByRole('tab', { name: 'What if' }))
  await hand.fill(page.getByLabel('Frames there are'), '10')
  await expect(page.getByText('Stop down.')).toBeVisible()
  await hand.click(button(page, 'Use this plan').first())
  await expect(page.getByTestId('verdict')).toContainText(/^(\d|10) frames/)
  hand.tell('ten frames')
})

test('7 by keyboard: a plan is kept, and frames are left out and used again', async ({ page }) => {
  const files = seriesFiles(path.resolve('.e2e/import/card-1/bristles'))
  const { id: shootId } = await (await page.request.post('/api/shoots', { data: { title: 'By keyboard', plan: null } })).json()
  const { id: runId } = await (await page.request.post(`/api/shoots/${shootId}/runs`)).json()
  for (const file of files) await page.request.put(`/api/runs/${runId}/frames?name=${path.basename(file)}`, { data: await readFile(file) })
  await page.goto(`/shoots/${shootId}/shoot`)
  await expect(page.getByRole('region', { name: 'Survey' })).toBeVisible()
  const hand = new Hand(page)
  const focused = () => page.evaluate(() => document.activeElement?.textContent ?? '')
  // Past what stands on every screen; what comes next is the first thing in the run.
  await hand.press('Tab')
  expect(await focused()).toBe('Skip to the content')
  await hand.press('Enter')
  for (let stop = 0; stop < 8 && !(await focused()).startsWith('Fuse'); stop++) await hand.press('Tab')
  expect(await focused()).toContain('Fuse')
  for (let stop = 0; stop < 12 && !(await page.evaluate(() => document.activeElement?.hasAttribute('data-frame'))); stop++) await hand.press('Tab')
  await hand.press('ArrowRight', 3)
  const third = page.locator('[data-index="3"]')
  await expect(third.locator('[data-frame]')).toBeFocused()
  await hand.press('x')
  await expect(third).toContainText('left out')
  await hand.press('x')
  await expect(third).not.toContainText('left out')
  // One stop for the whole list.
  await hand.press('Tab')
  expect(await page.evaluate(() => document.activeElement?.closest('[data-index]'))).toBeNull()
  hand.tell('frames by keyboard')
})

test('8 kit: an import says what it replaces and asks; an error goes when it is corrected', async ({ page }) => {
  await page.goto('/kit')
  const hand = new Hand(page)
  const kit = {
    lenses: [
      {
        name: 'Macro 60 mm',
        focalLength_mm: 60,
        pupilRatio: 0.9,
        widestFNumber: 2.8,
        smallestFNumber: 22,
        nearest_mm: 219,
        mostMagnification: 1,
        length_mm: 90,
      },
      {
        name: 'Portrait 85 mm',
        focalLength_mm: 85,
        pupilRatio: 1,
        widestFNumber: 1.8,
        smallestFNumber: 16,
        nearest_mm: 800,
        mostMagnification: 0.13,
        length_mm: 70,
      },
    ],
  }
  const give = (contents: object) =>
    page.locator('input[type=file]').setInputFiles({ name: 'kit.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(contents)) })
  await give(kit)
  const question = page.getByRole('dialog')
  await expect(question).toContainText('1 item is new.')
  await expect(question).toContainText('1 of your items are replaced')
  await expect(question.getByRole('listitem')).toHaveText(['Macro 60 mm'])
  await hand.click(question.getByRole('button', { name: 'Cancel' }))
  await expect(page.getByText('Portrait 85 mm')).toBeHidden()
  await give(kit)
  await hand.click(page.getByRole('dialog').getByRole('button', { name: 'Import', exact: true }))
  await expect(page.getByText('2 items imported.')).toBeVisible()
  await expect(page.getByText('Portrait 85 mm').first()).toBeVisible()
  await give({ foo: [] })
  await expect(page.getByText('A kit has nothing called foo.')).toBeVisible()

  await hand.click(button(page, 'Add a lens'))
  const form = page.getByRole('dialog')
  await hand.fill(form.getByLabel('Name'), 'Field lens')
  await hand.fill(form.getByLabel('Focal length'), '35')
  await hand.fill(form.getByLabel('Widest aperture'), 'f/2,8')
  await hand.click(form.getByRole('button', { name: 'Save' }))
  const wrong = form.getByText('Smallest opening: give a number')
  await expect(wrong).toBeVisible()
  await hand.fill(form.getByLabel('Smallest opening'), '22')
  await expect(wrong).toBeHidden()
  for (const [label, value] of [
    ['Nearest focus', '300'],
    ['Largest magnification', '1:6'],
    ['Pupil ratio', '1'],
    ['Mount to front rim', '60'],
  ])
    await hand.fill(form.getByLabel(label), value)
  await hand.click(form.getByRole('button', { name: 'Save' }))
  await expect(page.getByText('widest aperture f/2.8').last()).toBeVisible()
  hand.tell('kit')
})

test('9 seventy shoots: found, sorted, renamed, planned again, removed', async ({ page }) => {
  for (let k = 1; k <= 70; k++)
    await page.request.post('/api/shoots', { data: { title: `Drawer ${k}, beetle`, subject: k % 2 ? 'left wing' : 'right wing', plan: null } })
  await newShoot(page, kept(NIB, { title: 'Ribbed coil' }))
  await page.goto('/')
  const hand = new Hand(page)
  const cards = page.getByRole('listitem')
  await expect(cards).toHaveCount(24)
  await hand.fill(page.getByRole('searchbox', { name: 'Find a shoot' }), 'drawer 42')
  await expect(cards).toHaveCount(1)
  await hand.click(button(page, 'Rename Drawer 42, beetle'))
  await hand.type('Rhinoceros')
  await hand.press('Enter')
  await hand.fill(page.getByRole('searchbox', { name: 'Find a shoot' }), 'rhino')
  await expect(cards.getByRole('heading')).toHaveText(['Rhinoceros'])
  await hand.fill(page.getByRole('searchbox', { name: 'Find a shoot' }), 'ribbed coil')
  await expect(cards.first().getByRole('heading')).toHaveText(/Ribbed coil/)
  await hand.click(button(page, /^Plan it again/).first())
  await expect(page.getByRole('heading', { name: /, again$/ })).toBeVisible()
  await page.goto('/')
  // Among its like: other tests change shoots of their own meanwhile.
  await page.getByRole('searchbox', { name: 'Find a shoot' }).fill('ribbed coil')
  await expect(cards.first().getByRole('heading')).toHaveText(/, again$/)
  await page.getByRole('combobox', { name: 'Order' }).selectOption('by title')
  await page.getByRole('searchbox', { name: 'Find a shoot' }).fill('drawer right')
  await expect(page.getByText(/^34 of/)).toBeVisible()
  await expect(cards.first().getByRole('heading')).toHaveText('Drawer 2, beetle')
  await hand.click(button(page, 'Delete Drawer 2, beetle'))
  await hand.click(button(page, 'Move to the bin'))
  await expect(page.getByText(/^33 of/)).toBeVisible()
  hand.tell('seventy shoots')
})

test('10 slips: commas, ratios, words, no title, and what was typed is still there', async ({ page }) => {
  await page.goto('/shoots/new')
  const hand = new Hand(page)
  const field = (label: string) => page.getByLabel(label, { exact: true })
  await hand.fill(field('Aperture, as marked'), '5,6')
  await expect(page.getByTestId('working-aperture')).toContainText('f/11')
  await hand.fill(field('Aperture, as marked'), 'f/8')
  await expect(page.getByTestId('working-aperture')).toContainText('f/16')
  await hand.fill(field('Magnification'), '1:2')
  await expect(page.getByTestId('working-aperture')).toContainText('f/12')
  await hand.fill(field('Magnification'), 'life size')
  await expect(page.getByText('This is not a number.')).toBeVisible()
  await hand.fill(field('Magnification'), '0,5')
  await expect(page.getByText('This is not a number.')).toBeHidden()
  await hand.press('Enter')
  await expect(page).toHaveURL(/shoots\/new$/)
  await hand.click(button(page, 'Save the plan and start shooting'))
  await expect(page.getByText('Give the shoot a title.').first()).toBeVisible()
  await expect(field('Title')).toBeFocused()
  await hand.type('Slips')
  await page.getByText('Light and time').click()
  await page.getByLabel('Test exposure, without filter').fill('0')
  await expect(page.getByText('Infinity')).toHaveCount(0)
  await page.getByLabel('Test exposure, without filter').fill('1/13')

  // Leaving keeps it; it can be dropped.
  await hand.click(page.getByRole('link', { name: 'change it' }))
  await expect(page.getByRole('heading', { name: 'Kit' })).toBeVisible()
  await page.goBack()
  await expect(field('Title')).toHaveValue('Slips')
  await expect(field('Magnification')).toHaveValue('0.5')
  await expect(page.getByText('Not saved yet')).toBeVisible()
  await hand.click(page.getByText('By distances'))
  await expect(page.getByText('Wide 24 mm').first()).toBeVisible()
  await page.getByText('Add a target').click()
  await page.getByLabel('Target 1', { exact: true }).fill('step')
  await page.getByLabel('Distance of target 1', { exact: true }).fill('0.2')
  await expect(page.getByText('nearer than the nearest point')).toBeVisible()
  await expect(page.getByText('Infinity')).toHaveCount(0)
  await hand.click(page.getByText('Close up, by depth'))
  await expect(page.getByText('Macro 100 mm').first()).toBeVisible()
  await hand.click(button(page, 'Start over'))
  await expect(field('Title')).toHaveValue('')
  hand.tell('slips')
})
