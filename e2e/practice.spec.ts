import { expect, test, type Page } from '@playwright/test'
import { bestOf, EXERCISES, extentOf, type ExerciseName } from '@/core/practice'

const begin = async (page: Page, name: ExerciseName, level: number, seed: number) => {
  await page.goto(`/practice/${name}?level=${level}&seed=${seed}`)
  await expect(page.getByRole('heading', { name: EXERCISES[name].title })).toBeVisible()
}
const pictureThere = (page: Page) => expect(page.locator('canvas[data-there="true"]')).toBeVisible()
const percent = async (page: Page) => {
  const went = page.getByRole('region', { name: 'How it went' })
  await expect(went).toBeVisible()
  return parseInt((await went.locator('strong').textContent())!, 10)
}

test('near and far by eye: who stops at the ends gets all, and is shown where they are', async ({ page }) => {
  const { request } = EXERCISES.nearAndFar.pose(11, 1)
  const { near_mm, far_mm } = extentOf(request)
  const step = (mm: number) => request.positions_mm.reduce((best, at, k, all) => (Math.abs(at - mm) < Math.abs(all[best] - mm) ? k : best), 0)
  await begin(page, 'nearAndFar', 1, 11)
  await pictureThere(page)
  await page.getByLabel('Focus', { exact: true }).fill(String(step(near_mm)))
  await page.getByRole('button', { name: 'It begins here' }).click()
  await page.getByLabel('Focus', { exact: true }).fill(String(step(far_mm)))
  await page.keyboard.press('f')
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBe(100)
  await expect(page.getByText('The bar is the subject')).toBeVisible()
})

test('choose: the fewest frames that hold the subject get all, and the series is fused to look at', async ({ page }) => {
  const best = bestOf(EXERCISES.choose.pose(5, 1))
  await begin(page, 'choose', 1, 5)
  await page.getByLabel('Aperture').selectOption(String(best.fNumber))
  await page.getByLabel('Step', { exact: true }).fill(best.stride_mm.toFixed(3))
  await page.getByLabel('Frames', { exact: true }).fill(String(best.frames))
  await page.getByRole('button', { name: 'Shoot it' }).click()
  expect(await percent(page)).toBeGreaterThanOrEqual(98)
  await pictureThere(page)
})

test('by hand: a course turned by the keys and pressed on its planes gets nearly all', async ({ page }) => {
  const task = EXERCISES.byHand.pose(3, 1)
  const marks = Math.round((task.planned_mm[1] - task.planned_mm[0]) / task.mmAMark)
  await begin(page, 'byHand', 1, 3)
  await pictureThere(page)
  for (let frame = 0; frame < task.planned_mm.length; frame++) {
    if (frame > 0) {
      for (let k = 0; k < Math.floor(marks / 10); k++) await page.keyboard.press('Shift+ArrowRight')
      for (let k = 0; k < marks % 10; k++) await page.keyboard.press('ArrowRight')
    }
    await page.keyboard.press('p')
  }
  await expect(page.getByText(`${task.planned_mm.length} of ${task.planned_mm.length}`)).toBeVisible()
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBeGreaterThan(95)
})

test('what happened here: the fault and its frame get all, and the explanation goes to the frame', async ({ page }) => {
  const seed = Array.from({ length: 100 }, (_, k) => k).find((k) => EXERCISES.whatHappened.pose(k, 1).truth.kind === 'noFlash')!
  const { truth } = EXERCISES.whatHappened.pose(seed, 1)
  await begin(page, 'whatHappened', 1, seed)
  await page.getByRole('button', { name: `Frame ${truth.frame}`, exact: true }).click()
  await pictureThere(page)
  await page.getByLabel('The flash did not fire fully').check()
  await page.getByRole('button', { name: `In this frame, ${truth.frame}` }).click()
  await page.getByRole('button', { name: 'Frame 1', exact: true }).click()
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBe(100)
  await expect(page.getByRole('button', { name: `Frame ${truth.frame}`, exact: true })).toHaveAttribute('aria-current', 'true')
  await expect(page.locator('[data-code="practice.why.noFlash"]')).toBeVisible()
})

test('wander and find: what the mark shows as wrong gets all when it is marked the next time', async ({ page }) => {
  await begin(page, 'wander', 1, 6)
  await pictureThere(page)
  const picture = page.getByRole('img', { name: 'A fused picture with faults' })
  await picture.click({ position: { x: 4, y: 4 } })
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBe(0)
  const places = await page.locator('[data-counts="true"]').all()
  expect(places.length).toBeGreaterThan(0)
  const middles = await Promise.all(places.map(async (place) => (await place.boundingBox())!))
  const before = (await picture.boundingBox())!
  await page.keyboard.down(' ')
  await expect(page.getByRole('img', { name: 'The picture without the faults' })).toBeVisible()
  await page.keyboard.up(' ')
  await page.reload()
  await pictureThere(page)
  // The way it went stands above the picture then; the same place of the picture is what counts.
  for (const { x, y, width, height } of middles) await picture.click({ position: { x: x + width / 2 - before.x, y: y + height / 2 - before.y } })
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBe(100)
  // And on to mending it: the frames are taken into a shoot, without the one that was forgotten.
  await page.getByRole('button', { name: 'Mend this picture' }).click()
  await page.waitForURL(/\/shoots\/\d+\/mend$/, { timeout: 60_000 })
  await expect(page.getByTestId('porthole')).toBeVisible()
  const shoot = await (await page.request.get(`/api/shoots/${/shoots\/(\d+)/.exec(page.url())![1]}`)).json()
  const { request, missing } = EXERCISES.wander.pose(6, 1)
  const names = request.positions_mm.map((_, k) => `frame_${String(k + 1).padStart(3, '0')}.png`).filter((_, k) => k !== missing)
  expect(shoot.runs[0].frames.map(({ name }: { name: string }) => name)).toEqual(names)
  await page.request.delete(`/api/shoots/${shoot.id}`)
})

test('landscape in five minutes: filter off to focus, on to expose, the meter read each time', async ({ page }) => {
  const { targets } = EXERCISES.fiveMinutes.pose(4, 1)
  await begin(page, 'fiveMinutes', 1, 4)
  await pictureThere(page)
  for (const { name } of targets) {
    await page.getByRole('button', { name }).click()
    await page.getByRole('button', { name: 'Filter off' }).click()
    const metered = seconds((await page.locator('dt', { hasText: 'The meter says' }).locator('+ dd').textContent())!)
    const options = await page.getByLabel('Exposure').locator('option').allTextContents()
    const nearest = options.reduce((best, text, k) => (off(seconds(text), metered) < off(seconds(options[best]), metered) ? k : best), 0)
    await page.getByLabel('Exposure').selectOption({ index: nearest })
    await page.getByRole('button', { name: 'Press the shutter' }).click()
    await page.getByRole('button', { name: 'Filter on' }).click()
  }
  await page.getByRole('button', { name: 'Mark it' }).click()
  expect(await percent(page)).toBe(100)
})

const off = (a: number, b: number) => Math.abs(Math.log(a / b))
const seconds = (text: string) => {
  const [, minutes = '0'] = /(\d+) min/.exec(text) ?? []
  const [, whole = '0'] = /(1\/[\d.]+|[\d.]+) s/.exec(text) ?? []
  return 60 * Number(minutes) + (whole.startsWith('1/') ? 1 / Number(whole.slice(2)) : Number(whole))
}

test('every try enters the record; what is no exercise is not found', async ({ page }) => {
  const before = (await (await page.request.get('/api/practice')).json()).length
  const kept = await page.request.post('/api/practice', { data: { exercise: 'choose', level: 2, seed: 8, percent: 64, took_s: 30 } })
  expect(kept.status()).toBe(200)
  const refused = await page.request.post('/api/practice', { data: { exercise: 'golf', level: 2, seed: 8, percent: 64, took_s: 30 } })
  expect(refused.status()).toBe(400)
  expect((await (await page.request.get('/api/practice')).json()).length).toBeGreaterThan(before)
  await page.goto('/practice')
  await expect(page.getByRole('region', { name: 'Choose' })).toContainText('last 64 % at level 2')
  await page.getByRole('group', { name: 'Begin: By hand' }).getByRole('button', { name: 'Level 3' }).click()
  await expect(page).toHaveURL(/\/practice\/byHand\?level=3&seed=\d+$/)
  expect((await page.goto('/practice/golf'))!.status()).toBe(404)
})
