import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { openMend } from './mendRun'
import { add, deliverOf, keptRecipe } from './recipe'
import { choose } from './select'

/** How far red, green and blue of a place of a picture lie apart, as the largest by the smallest, in light. */
async function tintAt(picture: Buffer | string, left: number, top: number, radius: number): Promise<number> {
  const part = { left: Math.round(left - radius), top: Math.round(top - radius), width: 2 * radius, height: 2 * radius }
  const samples = await sharp(picture).removeAlpha().extract(part).raw().toBuffer()
  const light = [0, 1, 2].map((c) => samples.reduce((sum, value, i) => sum + (i % 3 === c ? ((value / 255 + 0.055) / 1.055) ** 2.4 : 0), 0))
  return Math.max(...light) / Math.min(...light)
}

test('grey is taken from a card that one of the frames shows, by a click or by keys', async ({ page, request }) => {
  const { render, address } = deliverOf(await openMend(request))
  const untouched = { steps: [], profile: 'srgb', bits: 16, quality: 92 }
  expect((await page.request.put(`/api/renders/${render}/recipe`, { data: untouched })).ok()).toBe(true)
  const shoot = await (await page.request.get(`/api/shoots/${/shoots\/(\d+)/.exec(address)![1]}`)).json()
  const run = shoot.runs.find(({ renders }: { renders: { id: number }[] }) => renders.some(({ id }) => id === render))
  const { reference, crop } = run.renders.find(({ id }: { id: number }) => id === render).report
  const { width, height } = run.frames[0]
  await page.goto(address)
  await choose(page, 'Format', 'PNG')
  const before = await download(page, 'Write the file')

  await add(page, 'Grey from a card')
  await expect(page.getByRole('button', { name: 'Grey from a card: choose its frame', exact: true })).toBeVisible()
  await choose(page, 'Frame with the grey card', reference)
  const frame = page.getByTestId('card-frame')
  const box = (await frame.boundingBox())!
  // Its place is kept before it comes, and nothing is taken for grey before it is chosen.
  expect(box.width / box.height).toBeCloseTo(width / height, 1)
  await expect(page.getByRole('button', { name: 'Grey from a card: choose its frame', exact: true })).toBeVisible()
  // A first place that is answered last does not undo the second.
  let late: Promise<void> | undefined
  await page.route('**/card?*', async (route) => {
    if (!late) await (late = page.waitForTimeout(2000))
    await route.continue()
  })
  const answers = [0, 1].map((k) =>
    page.waitForResponse((answer) => answer.url().includes('/card?') && answer.url().includes(k === 0 ? 'x=0.5' : 'x=0.1')),
  )
  await frame.click({ position: { x: 0.5 * box.width, y: 0.5 * box.height } })
  // Somewhere on the stone, which is not grey: it becomes so.
  await frame.click({ position: { x: 0.15 * box.width, y: 0.8 * box.height } })
  await expect(page.getByRole('button', { name: `Grey as the card in ${reference}`, exact: true })).toBeVisible()
  await expect(page.getByText('15 % across')).toBeVisible()
  await Promise.all(answers)
  await expect.poll(async () => (await keptRecipe(page, render)).steps[0]?.frame).toBe(reference)
  const after = await download(page, 'Write the file')
  const place = [0.15 * width - crop.x, 0.8 * height - crop.y, Math.round(0.009 * width)] as const
  expect(await tintAt(before.contents, ...place)).toBeGreaterThan(1.08)
  expect(await tintAt(after.contents, ...place)).toBeLessThan(1.04)

  // By keys the place moves as well, and the colour with it.
  const { card } = (await keptRecipe(page, render)).steps[0]
  const across = page.getByRole('slider', { name: 'Place of the card, across' })
  await across.focus()
  for (let k = 0; k < 30; k++) await page.keyboard.press('ArrowRight')
  await expect(page.getByText('45 % across')).toBeVisible()
  await expect.poll(async () => (await keptRecipe(page, render)).steps[0].card).not.toEqual(card)
})
