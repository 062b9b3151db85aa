import { expect, test, type Page } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { choose } from './select'

/** How large the picture is shown, in percent, as it says above it. */
const zoomOf = async (page: Page) =>
  Number.parseInt(
    (await page
      .getByText(/^\d+ %$/)
      .first()
      .textContent())!,
  )

test('from a plan to a delivered picture with the simulated camera', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('link', { name: 'Plan a shoot' }).last().click()

  // The figures follow every keystroke, and no keystroke is lost.
  await page.getByLabel('Title').fill('Seed capsule, tray 4')
  const before = await page.getByTestId('verdict').textContent()
  await page.getByLabel('Depth, nearest to farthest part').fill('3')
  await page.getByLabel('Blur allowed').fill('6')
  await page.getByLabel('Aperture, as marked').fill('11')
  await expect(page.getByTestId('verdict')).not.toHaveText(before!)
  await expect(page.getByTestId('working-aperture')).toContainText('f/22')
  const count = Number(
    await page
      .getByTestId('frame-count')
      .textContent()
      .then((text) => text!.replace(/\D/g, '')),
  )
  expect(count).toBeGreaterThan(2)
  expect(count).toBeLessThan(9)
  await expect(page.locator('[data-slice]')).toHaveCount(count)

  // A number that cannot be planned is said at its field, and the last plan stays in view.
  await page.getByLabel('Magnification', { exact: true }).fill('0')
  await expect(page.getByRole('alert').filter({ hasText: 'a number above 0' }).first()).toBeVisible()
  await page.getByLabel('Magnification', { exact: true }).fill('1')
  await page.getByRole('button', { name: 'Why: Depth of field' }).click()
  await expect(page.getByText('Kingslake').first()).toBeVisible()

  await page.getByRole('button', { name: 'Save the plan and start shooting' }).click()
  await expect(page.getByRole('heading', { name: 'Seed capsule, tray 4' })).toBeVisible()

  // Frames arrive one by one; the first try is cancelled and leaves its frames in peace.
  await page.getByRole('button', { name: `Shoot ${count} frames` }).click()
  await expect(page.getByRole('status')).toContainText('Simulated camera')
  await page.getByRole('button', { name: 'Cancel' }).click()
  await expect(page.getByText('Simulated camera was cancelled.')).toBeVisible()
  await page.getByRole('button', { name: 'Run it again' }).click()
  await expect(page.getByRole('status')).toContainText(`shooting frame 1 of ${count}`)
  await expect(page.getByRole('region', { name: /^Run/ }).first().locator('[data-frame] img')).toHaveCount(count)

  await page.getByRole('button', { name: 'Fuse these frames' }).first().click()
  await expect(page.getByRole('status')).toContainText(/registering frame|fusing frame/)

  // The result opens by itself in the zoom view, flicks to frames and to the source map at the same place.
  const view = page.getByTestId('zoom-view')
  await expect(view).toHaveAttribute('data-layer', 'fused')
  await expect(view.locator('canvas').first()).toBeVisible()
  await page.getByRole('button', { name: '100 %' }).click()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('shown')).toContainText(/Frame \d+, frame_0\d+\.jpg/)
  await expect(view).toHaveAttribute('data-layer', /^frame-/)
  await page.locator('[data-slice="0"]').click()
  await expect(page.getByTestId('shown')).toContainText('Frame 1, frame_001.jpg')
  await page.getByRole('button', { name: 'Which frame shows where' }).click()
  await expect(view).toHaveAttribute('data-layer', 'map')
  await page.keyboard.press('f')
  await expect(view).toHaveAttribute('data-layer', 'fused')

  // A place says which frame it is from, and that frame is what is shown.
  await view.click({ position: { x: 320, y: 220 } })
  const from = page.getByRole('status').filter({ hasText: 'This place is from frame' })
  await expect(from).toContainText(/This place is from frame \d+, frame_0\d+\.jpg, -?\d.* mm\./)
  const [file] = /frame_0\d+\.jpg/.exec((await from.textContent())!)!
  await from.getByRole('button', { name: /^Show frame/ }).click()
  await expect(page.getByTestId('shown')).toContainText(file)

  // How the frames moved is charted, and a click goes to the frame.
  const motion = page.getByRole('region', { name: 'Motion' })
  await expect(motion.locator('.recharts-line')).toHaveCount(3)
  const chart = motion.locator('.recharts-wrapper').first()
  await chart.hover({ position: { x: 400, y: 60 } })
  await expect(chart.getByText(/^frame \d+, frame_\d+\.jpg$/)).toBeVisible()
  await chart.click({ position: { x: 400, y: 60 } })
  await expect(page.getByTestId('shown')).toContainText(/Frame \d+, frame_/)

  // Another style on what is in view, fused by the browser; then all of it, laid beside the first render.
  const styles = page.getByRole('region', { name: 'Try a style' })
  await styles.getByRole('button', { name: 'terrain' }).click()
  await expect(styles.getByRole('status')).toContainText(/terrain: \d+ × \d+ px in/)
  await expect(view).toHaveAttribute('data-layer', /^preview-/)
  await styles.getByRole('button', { name: 'Render the whole picture with terrain' }).click()
  // The new render opens by itself; the one before it is laid beside it.
  await expect(styles.getByRole('button', { name: /^terrain \(now\)/ })).toBeVisible()
  await page.getByRole('button', { name: 'compare' }).click()
  await expect(page.getByText(/^left: terrain/)).toBeVisible()
  await expect(page.getByText(/^right: auto/)).toBeVisible()
  await page.keyboard.press('c')
  await expect(page.getByRole('slider', { name: 'Where the two renders meet' })).toHaveValue('100')

  // Two views of the same place: what is moved in the one moves in the other.
  await page.getByRole('button', { name: 'Two views' }).click()
  await expect(view).toHaveCount(2)
  const shots = async () =>
    Promise.all(
      [0, 1].map(
        async (k) =>
          (await sharp(await view.nth(k).screenshot())
            .raw()
            .toBuffer()) as Buffer,
      ),
    )
  const apart = ([a, b]: Buffer[]) => a.reduce((sum, value, i) => sum + Math.abs(value - b[i]), 0) / a.length
  await view.nth(1).hover({ position: { x: 200, y: 200 } })
  // A view that is not there yet takes no turn of the wheel; and what did not zoom in, could not zoom out below.
  const home = await zoomOf(page)
  await expect(async () => {
    await page.mouse.wheel(0, -400)
    await page.waitForTimeout(500)
    expect(await zoomOf(page)).toBeGreaterThan(home)
  }).toPass()
  await expect.poll(async () => apart(await shots())).toBeLessThan(6)
  // By keys too, though the pointer is over the other view.
  await view.nth(0).hover({ position: { x: 200, y: 200 } })
  const first = await view.nth(0).screenshot()
  await view.nth(1).locator('.openseadragon-canvas').focus()
  await page.keyboard.press('-')
  await expect.poll(async () => (await view.nth(0).screenshot()).equals(first)).toBe(false)
  await expect.poll(async () => apart(await shots())).toBeLessThan(6)
  // Letters are for the screen: none turns or mirrors the picture of one view only.
  for (const letter of ['r', 'j', 'w']) await page.keyboard.press(letter)
  await page.waitForTimeout(600)
  expect(apart(await shots())).toBeLessThan(6)

  // Deliver: 16-bit files whose names say the settings, and the report.
  await page.getByRole('link', { name: 'Finish and deliver this picture' }).click()
  await choose(page, 'Format', 'TIFF')
  const tiff = await download(page, 'Write the file')
  expect(tiff.fileName).toMatch(/^seed-capsule-tray-4_run\d_[a-z]+_ref\d\d_16bit\.tif$/)
  expect(await sharp(tiff.contents).metadata()).toMatchObject({ format: 'tiff', depth: 'ushort' })
  await choose(page, 'Format', 'JPEG')
  expect(await sharp((await download(page, 'Write the file')).contents).metadata()).toMatchObject({ format: 'jpeg', depth: 'uchar' })
  const report = JSON.parse((await download(page, 'The report as JSON')).contents.toString())
  expect(report.frames).toHaveLength(count)

  // The relief is measured in mm, by what the plan knows of the magnification.
  await page.getByRole('link', { name: 'The relief' }).click()
  const facts = await (await page.request.get(`/api/renders/${page.url().match(/render=(\d+)/)![1]}/surface`)).json()
  const across = await page.getByText(/^A to B: [\d.]+ ± [\d.]+ mm across\.$/).textContent()
  const wide_mm = 0.4 * facts.width_px * facts.pixelSize.size_mm
  expect(Math.abs(Number(across!.match(/: ([\d.]+)/)![1]) - wide_mm) / wide_mm).toBeLessThan(0.03)
  expect(await sharp((await download(page, 'The depth as PNG')).contents).metadata()).toMatchObject({ format: 'png', depth: 'ushort' })
  const confidence = await download(page, 'How sure the depth is as PNG')
  expect(confidence.fileName).toMatch(/_confidence\.png$/)
  expect(await sharp(confidence.contents).metadata()).toMatchObject({ format: 'png', depth: 'uchar' })
  const relief = (await download(page, 'The relief as PLY')).contents.toString('latin1')
  expect(relief).toContain('comment Nitidus relief, x, y and z in mm')

  await page.getByRole('link', { name: 'Shoots', exact: true }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Seed capsule' })).toContainText('fused')
})
