import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { edits, GHOST, glass, middleOf, openMend, seenAt, steady, through } from './mendRun'

let address: string
let render: number

test.beforeAll(async ({ request }) => {
  ;({ address, render } = await openMend(request))
})

test.describe.configure({ mode: 'serial' })

test('one rests on a place, chooses a window, sees through the porthole, paints, undoes, and finds it after a reload', async ({ page }) => {
  await page.goto(address)
  await expect(glass(page)).toBeVisible()
  const at = await middleOf(glass(page))
  await page.mouse.move(at.x, at.y)
  const windows = page.getByRole('list', { name: 'The same spot in every frame' })
  await expect(windows.getByRole('button', { name: /which is shown there/ })).toHaveCount(1)
  await expect(windows.locator('img')).toHaveCount(9)
  const beside = { x: at.x + 4, y: at.y + 4 }
  const before = await seenAt(page, beside)
  await windows.getByRole('button', { name: /Paint from frame 9,/ }).click()
  await expect(through(page)).toHaveText('frame 9')
  // Under the pointer the last frame is seen already, which is far out of focus there.
  await page.mouse.move(at.x, at.y)
  await expect.poll(async () => (await seenAt(page, beside)).join() === before.join()).toBe(false)
  const live = await seenAt(page, beside)
  await page.mouse.down()
  await page.mouse.move(at.x + 30, at.y, { steps: 5 })
  await page.mouse.up()
  await expect(edits(page)).toHaveCount(1)
  await expect(edits(page)).toContainText('From frame 9')
  // What was seen stays when the pointer goes away.
  await page.mouse.move(at.x, at.y - 180)
  await expect.poll(async () => Math.max(...(await seenAt(page, beside)).map((value, c) => Math.abs(value - live[c])))).toBeLessThanOrEqual(12)

  await page.reload()
  await expect(edits(page)).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(edits(page).first()).toHaveAttribute('data-stands', 'false')
  await page.reload()
  await expect(edits(page).first()).toHaveAttribute('data-stands', 'false')
  await page.keyboard.press('Control+Shift+Z')
  await expect(edits(page).first()).toHaveAttribute('data-stands', 'true')
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(edits(page).first()).toHaveAttribute('data-stands', 'false')
})

test('keys size the porthole, say what shows, and are all told on a sheet', async ({ page }) => {
  await page.goto(address)
  const at = await middleOf(glass(page))
  await page.mouse.move(at.x, at.y)
  await expect(page.getByRole('button', { name: /which is shown there/ })).toHaveCount(1)
  const rim = glass(page).locator('circle').first()
  const size = async () => Number(await rim.getAttribute('r'))
  const first = await size()
  await page.keyboard.press('ArrowUp')
  await expect.poll(size).toBeGreaterThan(first)
  await page.mouse.wheel(0, 100)
  await expect.poll(size).toBeCloseTo(first, 1)
  await page.keyboard.press('s')
  await expect(through(page)).toHaveText(/^frame \d, sharpest here$/)
  await page.keyboard.press('h')
  await expect(through(page)).toHaveText('healed from around')
  await page.keyboard.press('ArrowRight')
  await expect(through(page)).toHaveText(/^frame \d$/)
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('undo, redo')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
})

test('a pen covers by how firmly it is pressed, twice the usual pressure wholly', async ({ page }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Begin another mend' }).click()
  await expect(edits(page)).toHaveCount(0)
  await page.getByRole('button', { name: 'Healed from around' }).click()
  const at = await middleOf(glass(page))
  const devices = await page.context().newCDPSession(page)
  const pen = (type: 'mousePressed' | 'mouseMoved' | 'mouseReleased', x: number, force: number) =>
    devices.send('Input.dispatchMouseEvent', { type, x, y: at.y, button: 'left', buttons: 1, clickCount: 1, pointerType: 'pen', force })
  const stored = async () => (await (await page.request.get(`/api/renders/${render}/mends`)).json())[0].edits
  for (const [count, force, opacity] of [
    [1, 0.25, 0.5],
    [2, 0.8, 1],
  ]) {
    const from = at.x + 60 * (count - 1)
    await pen('mousePressed', from, force)
    await pen('mouseMoved', from + 12, force)
    await pen('mouseMoved', from + 24, force)
    await pen('mouseReleased', from + 24, 0)
    await expect.poll(async () => (await stored()).length).toBe(count)
    const [{ path, opacity: kept }] = (await stored()).slice(-1)
    expect(kept).toBeCloseTo(opacity, 2)
    expect(path.length).toBeGreaterThan(2)
  }
})

test('a gate that nothing lies in lets nothing be painted; the file is as the screen', async ({ page }) => {
  await page.goto(address)
  const near = page.getByRole('slider', { name: 'Nearest depth that is painted' })
  await near.focus()
  for (let k = 0; k < 16; k++) await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('group', { name: 'Depths that the porthole may touch' })).toContainText(/from slice 9/)
  const at = await middleOf(glass(page))
  await page.mouse.move(at.x - 20, at.y)
  await page.getByRole('button', { name: /Paint from frame 1,/ }).click()
  await page.mouse.move(at.x, at.y)
  const beside = { x: at.x + 4, y: at.y + 4 }
  await page.mouse.down()
  await page.mouse.up()
  await page.mouse.move(at.x, at.y - 180)
  // Edits are kept a moment after they are painted.
  const lastGate = async () => (await (await page.request.get(`/api/renders/${render}/mends`)).json())[0].edits.at(-1).gate
  await expect.poll(lastGate).toEqual({ near: 1, far: 1 })
  // Read once nothing is loaded any more: tiles that still arrive are another level off.
  const clip = { x: Math.round(beside.x), y: Math.round(beside.y), width: 2, height: 2 }
  await page.keyboard.down('u')
  const untouched = await steady(page, clip)
  await page.keyboard.up('u')
  expect((await steady(page, clip)).equals(untouched)).toBe(true)
})

test('the round finds the planted ghost; it is mended in three actions from the opened screen, and the file shows it whole', async ({ page }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Begin another mend' }).click()
  await expect(edits(page)).toHaveCount(0)
  // 1: have the picture looked over.
  await page.getByRole('button', { name: 'Look the picture over' }).click()
  await expect(page.getByTestId('place')).toContainText('A part moved')
  const { places } = await (await page.request.get(`/api/renders/${render}/places`)).json()
  expect(places[0].kind).toBe('ghost')
  const { crop } = await (await page.request.get(`/api/renders/${render}/json`)).json()
  const [gx, gy] = [GHOST.x - crop.x, GHOST.y - crop.y]
  expect(places[0].x).toBeLessThan(gx + GHOST.radius)
  expect(places[0].x + places[0].width).toBeGreaterThan(gx - GHOST.radius)
  expect(places[0].y).toBeLessThan(gy + GHOST.radius)
  expect(places[0].y + places[0].height).toBeGreaterThan(gy - GHOST.radius)
  // Blinking shows what would change, and changes nothing.
  const mark = (await page.getByTestId('place-mark').boundingBox())!
  const clip = { x: Math.round(mark.x), y: Math.round(mark.y), width: Math.round(mark.width), height: Math.round(mark.height) }
  const now = await steady(page, clip)
  await page.keyboard.down('b')
  await expect.poll(async () => (await page.screenshot({ clip })).equals(now)).toBe(false)
  await page.keyboard.up('b')
  await expect.poll(async () => (await page.screenshot({ clip })).equals(now)).toBe(true)
  // 2: take the suggestion.
  await page.keyboard.press('Enter')
  await expect(edits(page)).toHaveCount(1)
  await expect(edits(page)).toContainText(places[0].suggestion.frame ? /From frame [1-4789]/ : 'Healed')
  // 3: render it.
  await page.getByRole('button', { name: 'Render the mended picture' }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
  const mended = Number(/render=(\d+)/.exec(page.url())![1])
  expect(mended).not.toBe(render)
  const part = `x=${places[0].x}&y=${places[0].y}&width=${Math.max(16, places[0].width)}&height=${Math.max(16, places[0].height)}`
  const area = async (id: number) => {
    const answer = await page.request.get(`/api/renders/${id}/area?${part}`)
    return sharp(await answer.body())
      .removeAlpha()
      .raw()
      .toBuffer()
  }
  const [was, is] = [await area(render), await area(mended)]
  const apart = (a: Buffer, b: Buffer) => Math.sqrt(a.reduce((sum, value, i) => sum + (value - b[i]) ** 2, 0) / a.length)
  expect(apart(was, is)).toBeGreaterThan(3)
  await expect(page.getByRole('region', { name: 'Renders' })).toContainText('mended in 1 place')
})

test('a walk goes over all of the picture from front to back, and is taken up where one left', async ({ page }) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Walk from front to back' }).click()
  const walk = page.getByRole('group', { name: 'A walk from front to back' })
  const { crop } = await (await page.request.get(`/api/renders/${render}/json`)).json()
  const { views } = await (await page.request.get(`/api/renders/${render}/walk?width=100&height=100`)).json()
  const area = views.reduce((sum: number, { width, height }: { width: number; height: number }) => sum + width * height, 0)
  expect(area).toBe(crop.width * crop.height)
  // The picture is small: at 100 % it is seen at once from side to side.
  await expect(walk).toContainText(/^1 of \d/)
  await expect(page.getByTestId('place-mark')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Walk from front to back' }).click()
  await expect(walk).toContainText(/^1 of \d/)
  const of = Number(/of (\d+)/.exec((await walk.textContent())!)![1])
  for (let k = 0; k < of; k++) await page.keyboard.press('n')
  await expect(walk).toHaveCount(0)
})

test('with hundreds of edits the picture comes at once, newer ones lie above, and the list tells the newest', async ({ page }) => {
  const { id } = await (await page.request.post(`/api/renders/${render}/mends`, { data: { title: 'Hundreds', base: 'fused' } })).json()
  const stroke = (name: string, frame: number, at: [number, number], radius_px: number) => ({
    ...{ id: name, kind: 'donor', frame: `frame_00${frame}.jpg`, path: [at], radius_px, softness: 0, opacity: 1 },
  })
  const add = async (list: object[]) => expect((await page.request.post(`/api/mends/${id}/edits`, { data: { edits: list } })).ok()).toBe(true)
  const { crop } = await (await page.request.get(`/api/renders/${render}/json`)).json()
  const middle: [number, number] = [Math.floor(crop.width / 2), Math.floor(crop.height / 2)]
  const failed: string[] = []
  // What is asked for when one leaves a page ends with it.
  page.on('requestfailed', (request) => request.failure()?.errorText !== 'net::ERR_ABORTED' && failed.push(request.url()))
  const shown = async () => {
    await page.goto(address)
    const { x, y } = await middleOf(glass(page))
    const clip = { x: x - 3, y: y - 3, width: 6, height: 6 }
    return sharp(await steady(page, clip)).removeAlpha().raw().toBuffer() // prettier-ignore
  }
  const apart = (a: Buffer, b: Buffer) => Math.max(...a.map((value, i) => Math.abs(value - b[i])))
  await add([stroke('below', 9, middle, 24)])
  const below = await shown()
  await add([stroke('above', 4, middle, 12)])
  const above = await shown()
  expect(apart(above, below)).toBeGreaterThan(8)
  const elsewhere = Array.from({ length: 600 }, (_, k) => stroke(`${k}`, 1 + (k % 9), [8 + ((k * 37) % 440), 8 + ((k * 13) % 50)], 4))
  for (let k = 0; k < 600; k += 200) await add(elsewhere.slice(k, k + 200))
  await page.goto(address)
  await expect(edits(page)).toHaveCount(100)
  await expect(page.getByRole('button', { name: 'List all 602 edits' })).toBeVisible()
  // The oldest are painted last.
  const { x, y } = await middleOf(glass(page))
  await expect(async () => {
    const seen = await page.screenshot({ clip: { x: x - 3, y: y - 3, width: 6, height: 6 } })
    expect(apart(await sharp(seen).removeAlpha().raw().toBuffer(), above)).toBeLessThanOrEqual(2)
  }).toPass({ timeout: 60_000 })
  expect(failed).toEqual([])
  await page.getByRole('button', { name: 'List all 602 edits' }).click()
  await expect(edits(page)).toHaveCount(602)
})
