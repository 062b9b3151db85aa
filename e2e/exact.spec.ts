import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { edits, glass, middleOf, openMend, through, type Opened } from './mendRun'
import { choose } from './select'

let opened: Opened

test.beforeAll(async ({ request }) => {
  opened = await openMend(request)
})

test('what is painted is on the screen as in the file, to one level of 255, at 100 %', async ({ page, context }) => {
  await page.goto(opened.address)
  await expect(glass(page)).toBeVisible()
  await page.getByRole('button', { name: '100 %' }).click()
  await page.waitForTimeout(600)
  const at = await middleOf(glass(page))
  const draw = async (dx: number, dy: number) => {
    await page.mouse.move(at.x + dx, at.y + dy)
    await page.mouse.down()
    await page.mouse.move(at.x + dx + 20, at.y + dy + 6, { steps: 4 })
    await page.mouse.up()
  }
  await page.mouse.move(at.x, at.y)
  // A frame far from the sharpest, another one evened in tone over half of it, and a healed place.
  await page.getByRole('button', { name: /Paint from frame 1,/ }).click()
  await draw(-60, -40)
  await page.getByRole('button', { name: /Paint from frame 9,/ }).click()
  await page.getByRole('button', { name: 'Even its tone' }).click()
  await draw(-40, -30)
  await page.getByRole('button', { name: 'Healed from around' }).click()
  await draw(90, 10)
  await expect(edits(page)).toHaveCount(3)
  await page.mouse.move(0, 0)

  // The list shows an edit at once; a moment later it is stored.
  const stored = async () => (await (await page.request.get(`/api/renders/${opened.render}/mends`)).json())[0].edits
  await expect.poll(async () => (await stored()).length).toBe(3)
  const strokes = (await stored()) as { path: [number, number][]; radius_px: number }[]
  const other = await context.newPage()
  await other.goto(opened.address)
  await other.getByRole('button', { name: 'Render the mended picture' }).click()
  await expect(other).toHaveURL(/\/result\?render=\d+$/)
  await other.getByRole('link', { name: 'Finish and deliver this picture' }).click()
  await choose(other, 'Format', 'PNG')
  const { contents } = await download(other, 'Write the file')
  const file = await sharp(contents).removeAlpha().toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
  const samples = new Uint16Array(file.data.buffer, file.data.byteOffset, file.data.byteLength / 2)
  await page.bringToFront()
  const box = (await glass(page).boundingBox())!
  // The middle of the picture lies in the middle of the view; half a pixel is rounded either way.
  const halfway = [(box.width - file.info.width) / 2, (box.height - file.info.height) / 2]
  const corners = [Math.floor, Math.ceil].flatMap((across) => [Math.floor, Math.ceil].map((down) => [across(halfway[0]), down(halfway[1])]))

  /** The most that screen and file differ by, well within all strokes. */
  const apart = async () => {
    const shot = sharp(await page.screenshot({ clip: box }))
    const screen = await shot.removeAlpha().raw().toBuffer({ resolveWithObject: true })
    return Math.min(...corners.map(([left, top]) => Math.max(...strokes.map((stroke) => apartAt(screen, stroke, left, top)))))
  }
  const apartAt = (screen: { data: Buffer; info: { width: number } }, { path, radius_px }: (typeof strokes)[number], left: number, top: number) => {
    let worst = 0
    for (const [px, py] of path)
      for (let y = Math.round(py - 0.6 * radius_px); y < py + 0.6 * radius_px; y++)
        for (let x = Math.round(px - 0.6 * radius_px); x < px + 0.6 * radius_px; x++)
          for (let c = 0; c < 3; c++) {
            const there = samples[3 * (y * file.info.width + x) + c] / 257
            worst = Math.max(worst, Math.abs(screen.data[3 * ((y + top) * screen.info.width + x + left) + c] - there))
          }
    return worst
  }
  await expect.poll(apart).toBeLessThanOrEqual(1)
})

test('on a phone a tap paints from another render, and is undone', async ({ browser, baseURL }) => {
  const context = await browser.newContext({
    baseURL,
    viewport: { width: 390, height: 844 },
    hasTouch: true,
    isMobile: true,
    reducedMotion: 'reduce',
  })
  const page = await context.newPage()
  await page.goto(opened.address)
  await expect(glass(page)).toBeVisible()
  const before = await edits(page).count()
  await choose(page, 'Another render', /mended/)
  await expect(through(page)).toHaveText('another render')
  await glass(page).scrollIntoViewIfNeeded()
  const at = await middleOf(glass(page))
  await page.touchscreen.tap(at.x, at.y)
  await expect(edits(page)).toHaveCount(before + 1)
  const mendsNow = async () => (await page.request.get(`/api/renders/${opened.render}/mends`)).json()
  // The list shows an edit at once; a moment later it is stored.
  await expect.poll(async () => (await mendsNow())[0].edits.at(-1)).toMatchObject({ kind: 'render', opacity: 1 })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await mendsNow())[0].edits.at(-1).kind).toBe('undo')
  await context.close()
})

test('100 % pressed before the picture has come is 100 % when it has', async ({ page }) => {
  await page.route(/\/api\/renders\/\d+\/zoom$/, async (route) => {
    await new Promise((come) => setTimeout(come, 1500))
    await route.continue()
  })
  await page.goto(opened.address.replace('/mend', `/result?render=${opened.render}`))
  await page.getByRole('button', { name: '100 %' }).click()
  await expect(page.getByTestId('percent')).toHaveText('100 %')
  // It stays so.
  await page.waitForTimeout(2500)
  await expect(page.getByTestId('percent')).toHaveText('100 %')
})
