import { expect, test } from '@playwright/test'
import { edits, glass, middleOf, openMend } from './mendRun'

let address: string
let render: number

test.beforeAll(async ({ request }) => {
  ;({ address, render } = await openMend(request))
})

test.describe.configure({ mode: 'serial' })

test('a picture is composed of four frames with lines laid by depth; a line is dragged and widened, and the picture is rendered', async ({
  page,
}) => {
  await page.goto(address)
  await page.getByRole('button', { name: 'Compose by hand' }).click()
  const dialog = page.getByRole('dialog', { name: 'Compose by hand' })
  await expect(dialog.getByRole('button', { pressed: true })).toHaveCount(4)
  await dialog.getByRole('button', { name: 'Lay the lines' }).click()
  await expect(page.getByRole('button', { name: 'Drag the lines' })).toHaveAttribute('aria-pressed', 'true')
  const baseOf = async () => (await (await page.request.get(`/api/renders/${render}/mends`)).json())[0].base
  await expect.poll(async () => (await baseOf()).boundaries?.length).toBe(4)
  const laid = (await baseOf()).boundaries
  expect(laid.slice(0, 3).every(({ until }: { until?: unknown[] }) => until?.length === 7)).toBe(true)
  // The middle point of the first line, dragged upwards by 40 px of the screen.
  const stage = page.locator('canvas').last()
  await expect(stage).toBeVisible()
  const { crop } = await (await page.request.get(`/api/renders/${render}/json`)).json()
  const box = (await glass(page).boundingBox())!
  const scale = Math.min(box.width / crop.width, box.height / crop.height)
  const onScreen = ([x, y]: [number, number]) => ({
    x: box.x + box.width / 2 + (x + 0.5 - crop.width / 2) * scale,
    y: box.y + box.height / 2 + (y + 0.5 - crop.height / 2) * scale,
  })
  const line = laid.findIndex(({ until }: { until: [number, number][] }) => until && until[3][1] > 60 && until[3][1] < crop.height - 10)
  const from = onScreen(laid[line].until[3])
  await page.mouse.move(from.x, from.y)
  await page.mouse.down()
  await page.mouse.move(from.x, from.y - 40, { steps: 4 })
  await page.mouse.up()
  await expect.poll(async () => (await baseOf()).boundaries[line].until[3][1]).toBeLessThan(laid[line].until[3][1] - 0.6 * (40 / scale))
  const narrow = (await baseOf()).boundaries[line].width_px
  await page.mouse.move(from.x, from.y - 40)
  await page.mouse.wheel(0, -100)
  await expect.poll(async () => (await baseOf()).boundaries[line].width_px).toBeGreaterThan(narrow)
  await page.getByRole('button', { name: 'Render the mended picture' }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
})

test('what is not right is refused in a sentence, and nothing is lost', async ({ page }) => {
  const mends = await (await page.request.get(`/api/renders/${render}/mends`)).json()
  const add = (edit: object) => page.request.post(`/api/mends/${mends[0].id}/edits`, { data: { edits: [edit] } })
  const stroke = { path: [[10, 10]], radius_px: 5 }
  for (const [edit, code] of [
    [{ id: 'a', kind: 'donor', frame: 'elsewhere.jpg', ...stroke }, 'mend.frameUnknown'],
    [{ id: 'b', kind: 'heal', ...stroke, radius_px: 0 }, 'value.number.greater'],
    [{ id: 'c', kind: 'heal', ...stroke, radius_px: 1e9 }, 'value.number.max'],
    [{ id: 'd', kind: 'render', file: 'render-999999', ...stroke }, 'render.gone'],
  ] as const) {
    const answer = await add(edit)
    expect(answer.ok()).toBe(false)
    expect((await answer.json()).code).toBe(code)
  }
  const after = await (await page.request.get(`/api/renders/${render}/mends`)).json()
  expect(after).toEqual(mends)
})

test('two tabs that mend one picture lose nothing', async ({ page, context }) => {
  const other = await context.newPage()
  await page.goto(address)
  await other.goto(address)
  const [begun] = await Promise.all([
    page.waitForResponse((answer) => answer.request().method() === 'POST' && answer.url().endsWith('/mends')),
    page.getByRole('button', { name: 'Begin another mend' }).click(),
  ])
  const { id } = await begun.json()
  await expect(edits(page)).toHaveCount(0)
  const stored = async () => {
    const mends = (await (await page.request.get(`/api/renders/${render}/mends`)).json()) as { id: number; edits: unknown[] }[]
    return mends.find((mend) => mend.id === id)!.edits.length
  }
  // Its list of mends comes late: what is painted meanwhile belongs to the one that it will show.
  await other.route('**/mends', async (route) => {
    if (route.request().method() === 'GET') await other.waitForTimeout(3000)
    await route.continue()
  })
  await other.reload()
  for (const [tab, dx, count] of [
    [page, -60, 1],
    [other, 60, 2],
  ] as const) {
    await tab.bringToFront()
    await tab.getByRole('button', { name: 'Healed from around' }).click()
    const at = await middleOf(glass(tab))
    await tab.mouse.move(at.x + dx, at.y)
    await tab.mouse.down()
    await tab.mouse.up()
    await expect.poll(stored).toBe(count)
  }
  await expect(edits(other)).toHaveCount(2)
  await page.reload()
  await expect(edits(page)).toHaveCount(2)
  await other.close()
})
