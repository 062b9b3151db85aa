import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { openMend, type Opened } from './mendRun'

let opened: Opened
let address: string

test.beforeAll(async ({ request }) => {
  opened = await openMend(request)
  address = `${opened.address.replace(/mend$/, 'deliver')}?render=${opened.render}&view=relief`
})

const relief = (page: Page) => page.getByTestId('relief')

/** What the relief looks like once it no longer changes, without the marks that lie over it. */
async function looks(page: Page): Promise<{ data: Buffer; width: number; height: number }> {
  await page.waitForTimeout(400)
  const shot = await relief(page).evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL('image/png'))
  const { data, info } = await sharp(Buffer.from(shot.split(',')[1], 'base64'))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { data, width: info.width, height: info.height }
}

const apart = (a: Buffer, b: Buffer) => a.reduce((sum, value, i) => sum + Math.abs(value - b[i]), 0) / a.length

test('seen from the front the relief is the picture; it is turned, lit from a side, and shown as form alone', async ({ page }) => {
  await page.goto(address)
  await expect(relief(page)).toBeVisible()
  await page.waitForTimeout(1000)
  const front = await looks(page)
  // The fused picture, in the size in which it is drawn: in the middle of the view.
  const picture = sharp(await (await page.request.get(`/api/renders/${opened.render}/thumb`)).body())
  const { width, height } = await picture.metadata()
  const high = Math.round(Math.min(0.94 * front.height, (0.94 * front.width * height) / width))
  const wide = Math.round((high * width) / height)
  const part = { left: Math.round((front.width - wide) / 2), top: Math.round((front.height - high) / 2), width: wide, height: high }
  const inner = { left: Math.round(wide * 0.1), top: Math.round(high * 0.1), width: Math.round(wide * 0.8), height: Math.round(high * 0.8) }
  const raw = { width: front.width, height: front.height, channels: 3 as const }
  const drawn = await sharp(await sharp(front.data, { raw }).extract(part).png().toBuffer())
    .extract(inner)
    .blur(2)
    .raw()
    .toBuffer()
  const wanted = await sharp(await picture.resize(wide, high, { fit: 'fill' }).png().toBuffer())
    .extract(inner)
    .blur(2)
    .raw()
    .toBuffer()
  expect(apart(drawn, wanted)).toBeLessThan(5)

  await relief(page).focus()
  for (let k = 0; k < 6; k++) await page.keyboard.press('ArrowLeft')
  expect(apart((await looks(page)).data, front.data)).toBeGreaterThan(3)
  await page.keyboard.press('0')
  expect(apart((await looks(page)).data, front.data)).toBeLessThan(0.2)

  await page.getByRole('checkbox', { name: 'With the picture on it' }).uncheck()
  await page.getByRole('checkbox', { name: 'Light from the side' }).check()
  const lit = await looks(page)
  // Only grey is left.
  for (let i = 0; i < lit.data.length; i += 999) expect(Math.abs(lit.data[i - (i % 3)] - lit.data[i - (i % 3) + 2])).toBeLessThan(3)
  const pad = page.getByRole('slider', { name: 'Where the light comes from' })
  await expect(pad).toHaveAttribute('aria-valuetext', '40° above the picture, from the upper left')
  await pad.focus()
  for (let k = 0; k < 9; k++) await page.keyboard.press('ArrowRight')
  await expect(pad).toHaveAttribute('aria-valuetext', '40° above the picture, from the upper right')
  expect(apart((await looks(page)).data, lit.data)).toBeGreaterThan(1)
})

test('two places are dragged and moved by keys; what lies between them is told and charted', async ({ page }) => {
  await page.goto(address)
  await expect(relief(page)).toBeVisible()
  const words = page.getByRole('region', { name: 'Measure' })
  const across = async () => Number((await words.getByText(/px across/).textContent())!.match(/(\d+) px/)![1])
  const before = await across()
  const b = page.getByRole('button', { name: /^Place B/ })
  await b.focus()
  for (let k = 0; k < 2; k++) await page.keyboard.press('Shift+ArrowRight')
  for (let k = 0; k < 3; k++) await page.keyboard.press('ArrowRight')
  expect((await across()) - before).toBe(23)
  // This run was brought without a plan and positions: nothing is said in mm.
  await expect(words).toContainText('Sizes in mm need a plan')
  await expect(words).not.toContainText(/\d mm/)
  const box = (await b.boundingBox())!
  await page.mouse.move(box.x + 15, box.y + 15)
  await page.mouse.down()
  await page.mouse.move(box.x - 85, box.y + 15, { steps: 5 })
  await page.mouse.up()
  expect(await across()).toBeLessThan(before - 30)
  await expect(words.locator('.recharts-line-curve')).toHaveCount(1)
  const { contents } = await download(page, 'Take the profile along')
  const [head, ...rows] = contents.toString().trim().split('\n')
  expect(head).toBe('along_px,height_slices,low_slices,high_slices')
  expect(Number(rows.at(-1)!.split(',')[0])).toBeCloseTo(await across(), -1)
})

test('reliefs, moving pictures, stereo pairs, frames and masks are taken along under names that say what they are', async ({ page }) => {
  await page.goto(address)
  for (const [name, ending, start] of [
    ['The relief as GLB', '_relief.glb', 'glTF'],
    ['The relief as STL', '_relief.stl', ''],
    ['Rocking gently as WEBP', '_rocking.webp', 'RIFF'],
    ['The focus going through as GIF', '_focusrun.gif', 'GIF89a'],
    ['A stereo pair as JPG', '_stereo.jpg', '\xff\xd8'],
    ['The depth as PNG', '_depth.png', '\x89PNG'],
  ]) {
    const { fileName, contents } = await download(page, name)
    expect(fileName.endsWith(ending)).toBe(true)
    expect(contents.toString('latin1').startsWith(start)).toBe(true)
  }
  await page.getByRole('link', { name: 'The picture' }).click()
  for (const [name, ending] of [
    ['The registered frames as ZIP', '_frames.zip'],
    ['Which frame shows where as ZIP', '_masks.zip'],
  ]) {
    const { fileName, contents } = await download(page, name)
    expect(fileName.endsWith(ending)).toBe(true)
    expect(contents.toString('latin1', 0, 2)).toBe('PK')
  }
})

test('on a phone nothing runs out of the page', async ({ browser, baseURL }) => {
  const page = await browser.newPage({ baseURL, viewport: { width: 390, height: 844 } })
  await page.goto(address)
  await expect(relief(page)).toBeVisible()
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390)
  await page.close()
})
