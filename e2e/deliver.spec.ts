import { execFileSync } from 'node:child_process'
import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { openMend } from './mendRun'
import { add, deliverOf, keptRecipe } from './recipe'
import { choose } from './select'

test.use({ serviceWorkers: 'allow' })

let render: number
let address: string

test.beforeAll(async ({ request }) => {
  ;({ render, address } = deliverOf(await openMend(request)))
})

test.describe.configure({ mode: 'serial' })

const steps = (page: Page) => page.getByRole('list', { name: 'Steps', exact: true }).getByRole('listitem')
const proof = (page: Page) => page.getByTestId('proof')
const recipeOf = (page: Page) => keptRecipe(page, render)

/** Mean of a channel of a part of the proof, in px of the screen from its corner. */
async function meanOf(page: Page, part?: { left: number; top: number; width: number; height: number }): Promise<number> {
  const picture = sharp(await proof(page).screenshot())
  return (await (part ? picture.extract(part) : picture).stats()).channels[1].mean
}

test('steps are added, changed on the picture, moved, switched off and undone; the recipe is there after a reload', async ({ page }) => {
  await page.goto(address)
  await expect(proof(page)).toBeVisible()
  await expect.poll(() => meanOf(page)).toBeGreaterThan(60)
  const before = await meanOf(page)

  await add(page, 'Lighter or darker')
  const slider = page.getByRole('slider', { name: 'Stops lighter or darker' })
  await slider.focus()
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('button', { name: '0.8 stops darker', exact: true })).toBeVisible()
  await expect.poll(() => meanOf(page)).toBeLessThan(before - 15)

  await add(page, 'Crop')
  await choose(page, 'Shape of the crop', '1 : 1')
  await expect(page.getByRole('button', { name: 'Crop to 1 : 1', exact: true })).toBeVisible()
  // The frame is dragged by its middle.
  const crop = async () => (await recipeOf(page)).steps.find((step: { do: string }) => step.do === 'crop')
  await expect.poll(crop).toMatchObject({ width: 278, height: 278 })
  const first = await crop()
  const box = (await proof(page).boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 - 60, box.y + box.height / 2, { steps: 4 })
  await page.mouse.up()
  await expect.poll(async () => (await crop()).x).toBeLessThan(first.x - 10)
  await page.keyboard.press('Escape')
  const offSquare = async () => {
    const { width, height } = (await proof(page).boundingBox())!
    return Math.abs(width - height)
  }
  await expect.poll(offSquare).toBeLessThanOrEqual(1)

  const dark = await meanOf(page)
  await page.getByRole('button', { name: 'Switch off “0.8 stops darker”' }).click()
  await expect.poll(() => meanOf(page)).toBeGreaterThan(dark + 15)
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('button', { name: 'Move “Crop to 1 : 1” up' }).click()
  await expect(steps(page).first()).toContainText('Crop to 1 : 1')
  await expect.poll(async () => (await recipeOf(page)).steps[0].do).toBe('crop')
  await page.reload()
  await expect(steps(page)).toHaveCount(2)
  await expect(steps(page).first()).toContainText('Crop to 1 : 1')
})

test('what was changed is there on the next visit, at once, and in a second tab; nothing that was stored is lost', async ({ page, context }) => {
  await page.goto(address)
  const before = (await recipeOf(page)).steps.length
  await expect(steps(page)).toHaveCount(before)
  await add(page, 'Colours')
  await expect(steps(page)).toHaveCount(before + 1)
  // Left before the half second after which it is saved.
  await page.getByRole('link', { name: 'Result' }).first().click()
  await expect(page).toHaveURL(/\/result/)
  await page.goBack()
  await expect(steps(page)).toHaveCount(before + 1)
  const other = await context.newPage()
  await other.goto(address)
  await expect(steps(other)).toHaveCount(before + 1)
  await other
    .getByRole('button', { name: /^Remove “/ })
    .last()
    .click()
  await expect.poll(async () => (await recipeOf(page)).steps.length).toBe(before)
  await other.close()
  // The first tab reads it when it is looked at again, and adds to it.
  await page.bringToFront()
  await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange', { bubbles: true })))
  await expect(steps(page)).toHaveCount(before)
  await add(page, 'Colours')
  await expect.poll(async () => (await recipeOf(page)).steps.length).toBe(before + 1)
  await page
    .getByRole('button', { name: /^Remove “/ })
    .last()
    .click()
  await expect.poll(async () => (await recipeOf(page)).steps.length).toBe(before)
})

test('the ladder, a line and the hand are drawn on the picture, and the file is as the proof', async ({ page }) => {
  await page.goto(address)
  for (const name of ['Crop to 1 : 1', '0.8 stops darker']) await page.getByRole('button', { name: `Remove “${name}”` }).click()
  await expect(steps(page)).toHaveCount(0)

  await add(page, 'Ladder of tones')
  await page.getByRole('slider', { name: 'Tones 4 stops below white' }).focus()
  for (let k = 0; k < 8; k++) await page.keyboard.press('ArrowUp')
  await expect(page.getByRole('button', { name: '4 below white: 0.8 stops lighter', exact: true })).toBeVisible()

  await add(page, 'Along a line')
  await expect(page.locator('.konvajs-content').first()).toBeVisible()
  const box = (await proof(page).boundingBox())!
  const at = (x: number, y: number) => ({ x: box.x + x * box.width, y: box.y + y * box.height })
  await page.mouse.move(at(0.5, 0.5).x, at(0.5, 0.5).y)
  await page.mouse.down()
  await page.mouse.move(at(0.9, 0.5).x, at(0.9, 0.5).y, { steps: 5 })
  await page.mouse.up()
  await expect.poll(async () => (await recipeOf(page)).steps.find((step: { do: string }) => step.do === 'gradient')?.to[0]).toBeGreaterThan(400)

  await add(page, 'By hand')
  await page.mouse.move(at(0.2, 0.8).x, at(0.2, 0.8).y)
  await page.mouse.down()
  await page.mouse.move(at(0.35, 0.75).x, at(0.35, 0.75).y, { steps: 5 })
  await page.mouse.up()
  await expect.poll(async () => (await recipeOf(page)).steps.find((step: { do: string }) => step.do === 'local')?.path.length).toBeGreaterThan(3)
  await page.keyboard.press('Escape')

  await choose(page, 'Format', 'PNG')
  const { fileName, contents } = await download(page, 'Write the file')
  expect(fileName).toMatch(/^frames-of-.*_run1_auto_ref\d\d_16bit\.png$/)
  const file = sharp(contents)
  const { width, height } = await file.metadata()
  expect([width, height]).toEqual([467, 310])
  // The proof is as wide as the picture: pixel by pixel it is the file, to two levels of 255.
  const address_png = await proof(page).evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL('image/png'))
  const screen = await sharp(Buffer.from(address_png.split(',')[1], 'base64'))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  expect([screen.info.width, screen.info.height]).toEqual([width, height])
  const made = await file.removeAlpha().toColourspace('srgb').raw().toBuffer()
  let most = 0
  for (let i = 0; i < made.length; i++) most = Math.max(most, Math.abs(screen.data[i] - made[i]))
  expect(most).toBeLessThanOrEqual(2)
})

test('with a step open the screen can be used by those who do not see it', async ({ page }) => {
  await page.goto(address)
  for (const open of [/below white/, /along a line/, /by hand/]) {
    await page.getByRole('list', { name: 'Steps', exact: true }).getByRole('button', { name: open, expanded: false }).click()
    const { violations } = await new AxeBuilder({ page }).analyze()
    const serious = violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')
    expect(serious.flatMap(({ id, nodes }) => nodes.map(({ target }) => `${id} at ${target.join(' ')}`))).toEqual([])
  }
})

test('a recipe is kept, finishes many pictures at once, and travels as a file', async ({ page }) => {
  await page.goto(address)
  await expect(steps(page)).toHaveCount(3)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await page.getByLabel('Name of the recipe').fill('Catalogue')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Finish many' }).click()
  const dialog = page.getByRole('dialog', { name: 'Finish many pictures' })
  const boxes = dialog.getByRole('checkbox')
  await expect(boxes.first()).toBeVisible()
  const count = Math.min(3, await boxes.count())
  for (let k = 0; k < count; k++) await boxes.nth(k).check()
  await dialog.getByRole('button', { name: `Finish ${count}` }).click()
  await expect(dialog.getByText('finished')).toHaveCount(count)
  const took = page.waitForEvent('download')
  await dialog.getByRole('button', { name: 'Take' }).first().click()
  expect((await took).suggestedFilename()).toMatch(/_catalogue\.jpg$/)
  await dialog.getByRole('button', { name: 'Close' }).last().click()

  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Take along' }).click()
  const file = await (await saved).path()
  await page.getByRole('button', { name: /^Remove/ }).first().click()
  await expect(steps(page)).toHaveCount(2)
  await page.getByLabel('Recipe file').setInputFiles(file)
  await expect(steps(page)).toHaveCount(3)
}) // prettier-ignore

test('layers are taken along as one file that another reader opens', async ({ page }) => {
  await page.goto(address)
  await choose(page, 'Format', 'Layers (OpenRaster)')
  const { fileName, contents } = await download(page, 'Write the file')
  expect(fileName).toMatch(/_16bit\.ora$/)
  const script =
    'import sys, io, zipfile; z = zipfile.ZipFile(io.BytesIO(sys.stdin.buffer.read())); print(z.testzip(), z.infolist()[0].filename, sum(n.startswith("data/") for n in z.namelist()))'
  const told = execFileSync('python3', ['-c', script], { input: contents, encoding: 'utf8' })
  // The finished picture, the fused one, and nine frames.
  expect(told.trim()).toBe('None mimetype 11')
})

test('what a recipe cannot be is refused in a sentence, and what was kept stays', async ({ page }) => {
  const kept = await recipeOf(page)
  const put = (recipe: object) => page.request.put(`/api/renders/${render}/recipe`, { data: recipe })
  for (const [recipe, code] of [
    [{ steps: [{ do: 'tones', points: [[-4, -1], [0, -2]] }] }, 'finish.tones'],
    [{ version: 9, steps: [] }, 'finish.newer'],
    [{ steps: [{ do: 'size', long_px: 200_000 }] }, 'finish.size'],
  ] as const) {
    const answer = await put(recipe)
    expect([answer.status(), (await answer.json()).code]).toEqual([400, code])
  }
  expect(await recipeOf(page)).toEqual(kept)
  const again = await page.request.post('/api/recipes', { data: { name: 'Catalogue', recipe: { steps: [] } } })
  expect([again.status(), (await again.json()).code]).toEqual([409, 'recipe.name'])
}) // prettier-ignore

test('the proof comes after a look at mending too: a part kept for offline is handed out to whom it was asked for', async ({ page }) => {
  const mend = address.replace(/deliver.*/, 'mend')
  await page.goto(mend)
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready
  })
  // Now its parts go through what keeps them for offline.
  await page.reload()
  const glass = page.getByTestId('porthole')
  await expect(glass).toBeVisible()
  const box = (await glass.boundingBox())!
  for (let k = 0; k < 5; k++) await page.mouse.move(box.x + box.width / 2 + 10 * k, box.y + box.height / 2)
  await expect.poll(() => page.workers().length).toBeGreaterThan(0)
  await page.goto(address)
  await expect.poll(async () => (await proof(page).boundingBox())?.width ?? 0).toBeGreaterThan(200)
})

test('sharpening is judged on a part at 100 %, which is what the file will have there', async ({ page }) => {
  await page.goto(address)
  await expect(steps(page)).not.toHaveCount(0)
  for (let left = await steps(page).count(); left > 0; left--)
    await page
      .getByRole('button', { name: /^Remove/ })
      .first()
      .click()
  await expect(steps(page)).toHaveCount(0)
  await add(page, 'Sharpen')
  await expect(page.locator('.konvajs-content').first()).toBeVisible()
  const box = (await proof(page).boundingBox())!
  await page.mouse.click(box.x + 0.6 * box.width, box.y + 0.55 * box.height)
  const look = page.getByTestId('look')
  const seen = async () => {
    const picture = await look.evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL('image/png'))
    return sharp(Buffer.from(picture.split(',')[1], 'base64'))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
  }
  const before = await seen()
  const amount = page.getByRole('slider', { name: 'How much' })
  await amount.focus()
  for (let k = 0; k < 10; k++) await page.keyboard.press('ArrowRight')
  await expect.poll(async () => (await seen()).data.equals(before.data)).toBe(false)
  await page.waitForTimeout(800)
  await choose(page, 'Format', 'PNG')
  const file = sharp((await download(page, 'Write the file')).contents)
  const whole = await file.removeAlpha().toColourspace('srgb').raw().toBuffer({ resolveWithObject: true })
  const { data, info } = await seen()
  /** The level that nine of ten pixels differ by at most if the part is there. */
  const apart = (left: number, top: number) => {
    const off: number[] = []
    for (let y = 4; y < info.height - 4; y++)
      for (let i = 12; i < 3 * info.width - 12; i++)
        off.push(Math.abs(whole.data[3 * ((top + y) * whole.info.width + left) + i] - data[3 * y * info.width + i]))
    return off.sort((one, other) => one - other)[Math.floor(0.9 * off.length)]
  }
  // A click is on the screen's pixels, which are larger than the picture's: it lies within two of them.
  const [x, y] = [Math.round(0.6 * whole.info.width - info.width / 2), Math.round(0.55 * whole.info.height - info.height / 2)]
  const around = [-2, -1, 0, 1, 2].flatMap((dy) => [-2, -1, 0, 1, 2].map((dx) => apart(x + dx, y + dy)))
  expect(Math.min(...around)).toBeLessThanOrEqual(2)
})
