import { readFile } from 'node:fs/promises'
import { mkdirSync } from 'node:fs'
import path from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { GARDEN, NIB } from '../demo/scenario'
import { Hand } from './hand'
import { seriesFiles } from './series'

test.use({ serviceWorkers: 'allow' })

/** The first five of ten tasks of a first hour, done from the screens alone; each tells how many clicks and keys it took. */

const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name })

async function newShoot(page: Page, shoot: object): Promise<number> {
  return (await (await page.request.post('/api/shoots', { data: shoot })).json()).id
}
const kept = ({ title, subject, scene, plan, sheet }: typeof NIB, change: object = {}) => ({ title, subject, scene, plan, sheet, ...change })
const fieldOf = async (page: Page, id: number) => (await (await page.request.get(`/api/shoots/${id}`)).json()).field as { kind: string }[]

test('1 plan a 12 mm subject at 2:1 on a rail and take its card along as a PDF', async ({ page }) => {
  await page.goto('/')
  const hand = new Hand(page)
  await hand.click(page.getByRole('link', { name: 'Plan a shoot' }).last())
  await expect(page.getByLabel('Title')).toBeFocused()
  await hand.type('Burr seed')
  await hand.fill(page.getByLabel('Depth, nearest to farthest part'), '12')
  await hand.choose('Set the size with', 'Tubes or bellows')
  await hand.fill(page.getByLabel('Or say the size you want'), '2:1')
  await expect(page.getByText('2 : 1 in the picture')).toBeVisible()
  await expect(page.getByText('From the kit: Bellows, 100 mm')).toBeVisible()
  await hand.click(button(page, 'Save and print the run card'))
  await expect(page.getByRole('article', { name: 'Run card' })).toBeVisible()
  const started = page.waitForEvent('download')
  await hand.click(page.getByRole('link', { name: 'PDF' }))
  const file = await started
  expect(file.suggestedFilename()).toBe('run-card-burr-seed.pdf')
  expect((await readFile(await file.path())).subarray(0, 5).toString()).toBe('%PDF-')
  // The page is still there.
  await expect(page.getByRole('article', { name: 'Run card' })).toBeVisible()
  hand.tell('plan and card')
  expect(hand.clicks).toBeLessThan(17)
  expect(hand.keys).toBeLessThan(29)
})

test('2 a simulated run with a fault is checked, and says which frame to take again', async ({ page }) => {
  const plan = { ...NIB.plan, subject: { kind: 'depth', depth_mm: 14 } }
  const id = await newShoot(page, kept(NIB, { title: 'With a dark frame', plan, sheet: { ...NIB.sheet, depth_mm: 14 } }))
  await page.goto(`/shoots/${id}/shoot`)
  const hand = new Hand(page)
  const faults = page.getByRole('combobox', { name: 'Faults to switch on' })
  await hand.click(faults)
  await hand.type('without flash')
  await hand.press('Enter')
  await hand.press('Escape')
  await hand.click(button(page, /^Shoot \d+ frames/))
  const survey = page.getByRole('region', { name: 'Survey' })
  await expect(survey).toBeVisible()
  const dark = page.locator('[data-role=flawed]').first()
  const name = (await dark.locator('small').textContent())!
  const gap = survey.getByText('take it again')
  await expect(gap).toHaveCount(1)
  await expect(gap).toContainText(name)
  await expect(gap).toContainText(/at −?\d+\.\d\d mm/)
  hand.tell('simulated run with a fault')

  // With a frame left out the others keep their places, and a click on the picture names the frame by its file.
  await hand.click(button(page, /^Fuse \d+ of these frames/))
  const view = page.getByTestId('zoom-view')
  await expect(view).toHaveAttribute('data-layer', 'fused')
  await expect(page.getByRole('group', { name: /^Depth ribbon/ })).toBeVisible()
  await expect(page.getByText('Positions are unknown')).toHaveCount(0)
  await expect(view.locator('canvas').first()).toBeVisible()
  await view.click({ position: { x: 480, y: 240 } })
  const found = page.locator('[data-which]')
  await expect(found).toContainText(/This place is from frame (\d+), frame_0*\1\.jpg, −?\d+\.\d\d mm/)
  await found.getByRole('button').click()
  const [, number] = /frame (\d+)/.exec((await found.textContent())!)!
  await expect(page.getByTestId('shown')).toContainText(`Frame ${number}, frame_`)
})

test('3 own frames become a picture: one title, a stray size named, and the result opens by itself', async ({ page }) => {
  const files = seriesFiles(path.resolve('.e2e/import/card-1/bristles'))
  const stray = path.resolve('.e2e/stray.jpg')
  mkdirSync(path.dirname(stray), { recursive: true })
  await sharp({ create: { width: 90, height: 60, channels: 3, background: '#777' } })
    .jpeg()
    .toFile(stray)
  await page.goto('/')
  const hand = new Hand(page)
  await hand.click(page.getByRole('link', { name: 'Bring frames' }))
  await expect(page.getByLabel('Title of the shoot')).toBeFocused()
  await hand.type('Lichen on slate')
  const chooser = page.waitForEvent('filechooser')
  await hand.click(page.getByText('Drop frames here'))
  // The stray one comes first and is taken for none of the others.
  await (await chooser).setFiles([stray, ...files])
  const run = page.getByRole('region', { name: 'Run 1' })
  await expect(run.locator('[data-frame] img')).toHaveCount(files.length)
  await expect(page.getByText('Nothing is planned for this shoot.')).toBeVisible()
  await hand.click(run.getByRole('button', { name: 'Fuse these frames' }))
  await expect(page.getByTestId('zoom-view')).toHaveAttribute('data-layer', 'fused')
  hand.tell('own frames')
  expect(hand.clicks).toBeLessThanOrEqual(4)
  expect(hand.keys).toBeLessThanOrEqual(15)

  await page.goto('/')
  const card = page.getByRole('listitem').filter({ hasText: 'Lichen on slate' })
  await expect(card).toContainText('5 frames')
  await expect(card).not.toContainText(/min|apart/)
  // A plan can be given later.
  await page.goto(`${new URL((await card.getByRole('link').getAttribute('href'))!, page.url())}`.replace('result', 'plan'))
  await page.getByLabel('Depth, nearest to farthest part').fill('6')
  await button(page, 'Save this plan').click()
  await expect(page.getByRole('region', { name: 'Run 1' })).toBeVisible()
  await expect(page.getByText(/^\d+ frames, .* apart/)).toBeVisible()
})

test('4 a landscape in the field: a frame missed and taken after all, one repeated, and the record stays right', async ({ page }) => {
  const id = await newShoot(page, kept(GARDEN, { title: 'Field record', sheet: { ...GARDEN.sheet, filter_stops: 0 } }))
  await page.goto(`/shoots/${id}/field`)
  const hand = new Hand(page)
  const big = page.locator('[data-phase]')
  const take = async () => {
    await hand.click(big.filter({ hasText: 'Focus is in place' }))
    await expect(page.getByText('Press the shutter now')).toBeVisible()
    await hand.click(big.filter({ hasText: 'Taken' }))
  }
  await expect(page.getByText('Frame 1 of 4')).toBeVisible()
  await take()
  await hand.click(button(page, 'Skip this frame'))
  // Numbers are those of the printed card.
  await expect(page.getByText('Frame 3 of 4')).toBeVisible()
  await take()
  await expect(page.getByText('Gap: go back to')).toBeVisible()
  await hand.click(button(page, 'Taken, gap filled'))
  await expect(page.getByText('Gap: go back to')).toBeHidden()
  await expect(page.getByText('Frame 4 of 4')).toBeVisible()
  await take()
  await hand.click(button(page, 'Taken again'))
  await expect(page.getByText('The plan is covered.')).toBeVisible()
  const log = page.getByRole('list', { name: 'Taken' })
  const readings = async () => (await log.getByRole('listitem').allTextContents()).map((text) => text.replace(/\d\d:\d\d:\d\d.*/, '').trim())
  const before = await readings()

  // One of the first was not taken: its place is a gap, and every other row says what it said.
  await hand.click(log.getByRole('button', { name: 'Undo frame 3' }))
  await hand.click(button(page, 'Not taken: leave a gap here'))
  await expect(log.locator('[data-what=missed]')).toHaveCount(1)
  expect((await readings()).map((text) => text.replace(/\s+not taken$/, ''))).toEqual(before)
  await expect(page.getByText('Gap: go back to')).toBeVisible()
  await hand.click(button(page, 'Taken after all, frame 3'))
  await expect(page.getByText('The plan is covered.')).toBeVisible()

  // A new run is asked for, and there is a way back.
  await hand.click(button(page, 'Start a new run…'))
  await hand.click(button(page, 'Start run 2'))
  await expect(page.getByText('Frame 1 of 4')).toBeVisible()
  await hand.click(button(page, 'Go back to run 1'))
  await expect(page.getByText('The plan is covered.')).toBeVisible()
  hand.tell('landscape in the field')
  await expect
    .poll(async () => (await fieldOf(page, id)).map(({ kind }) => kind))
    .toEqual([...['taken', 'missed', 'taken', 'filled', 'taken', 'repeated', 'cleared', 'filled', 'begin', 'returned']])
  await page.goto('/')
  await expect(page.getByRole('listitem').filter({ hasText: 'Field record' })).toContainText('shot')
})

test('5 the body’s own bracketing is one press, on the card and in the field', async ({ page }) => {
  await page.addInitScript(() => {
    const said: string[] = []
    Object.assign(window, { said })
    speechSynthesis.speak = ({ text }) => void said.push(text)
  })
  await page.goto('/shoots/new')
  const hand = new Hand(page)
  await expect(page.getByLabel('Title')).toBeFocused()
  await hand.type('By the body')
  await hand.fill(page.getByLabel('Magnification', { exact: true }), '0.5')
  await hand.fill(page.getByLabel('Depth, nearest to farthest part'), '30')
  await hand.click(page.getByText('The body’s own bracketing'))
  await expect(page.getByText(/Step \d of 10 moves the focus/).first()).toBeVisible()
  const frames = parseInt((await page.getByTestId('verdict').textContent())!)
  await hand.click(button(page, 'Save and print the run card'))
  const card = page.getByRole('article', { name: 'Run card' })
  await expect(card.getByText(new RegExp(`Set step \\d+ and ${frames} frames`))).toBeVisible()
  await expect(card.getByText('press the shutter once')).toBeVisible()
  await expect(card.getByRole('row')).toHaveCount(2)
  await hand.click(page.getByRole('link', { name: 'Shoot', exact: true }))
  await hand.click(page.getByRole('link', { name: 'Open the run card' }))
  // The press says how long it takes; no other time contradicts it.
  await expect(page.getByText('Takes about')).toBeVisible()
  await expect(page.getByText(/to go\./)).toHaveCount(0)
  // A voice says the same, where one wants it.
  await button(page, 'Say it aloud').click()
  const lastSaid = () => page.evaluate(() => (window as unknown as { said: string[] }).said.at(-1))
  await expect.poll(lastSaid).toMatch(new RegExp(`^Step \\d+, ${frames} frames\\. Begin at the near edge\\. Press once\\.$`))
  await hand.click(button(page, 'Pressed'))
  await expect.poll(lastSaid).toMatch(/^Hands off\. \d+ seconds\. All taken\?$/)
  await hand.click(button(page, `Taken, all ${frames}`))
  await expect(page.getByText('The plan is covered.')).toBeVisible()
  hand.tell('bracketing')
})
