import { execFileSync } from 'node:child_process'
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import sharp from 'sharp'
import { download } from './download'
import { choose } from './select'

const CARD = '.e2e/import/raw-card'
const SCENE = { scene: 'fossil', seed: 5, camera: { width_px: 720, height_px: 480, mover: 'ring', fNumber: 5.6 } }

test('a card of raw files becomes a delivered picture, in the colours of what was shot', async ({ page }) => {
  mkdirSync(CARD, { recursive: true })
  writeFileSync('.e2e/raw-scene.json', JSON.stringify({ ...SCENE, files: 'dng', positions_mm: [0, 1.6, 3.2, 4.8, 6.4, 8] }))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', '.e2e/raw-scene.json', '--out', CARD, '--truth'])
  // A camera that writes each frame twice.
  writeFileSync(
    `${CARD}/frame_001.jpg`,
    await sharp({ create: { width: 720, height: 480, channels: 3, background: '#765' } })
      .jpeg()
      .toBuffer(),
  )

  await page.goto('/shoots/frames')
  await page.getByLabel('Title').fill('Raw from the card')
  await page.getByLabel('Or a folder on this computer').fill('raw-card')
  await page.getByRole('button', { name: 'Import' }).click()
  await expect(page).toHaveURL(/\/shoots\/\d+\/shoot/)
  const run = page.getByRole('region', { name: 'Run 1' })
  await expect(run).toContainText('6 raw frames of 720 × 480 px, 16 bit, f/5.6, ISO 100')
  await expect(run).toContainText('All are developed with the white balance of')

  // As another frame was shot: until pictures hang on it.
  await choose(page, 'Take the white balance of', 'frame_003.dng')
  const id = Number(/shoots\/(\d+)/.exec(page.url())![1])
  const first = async () => (await (await page.request.get(`/api/shoots/${id}`)).json()).runs[0]
  await expect.poll(async () => (await first()).development.like).toBe('frame_003.dng')

  // Or so that a place of it is grey; and back.
  const noted = (await first()).development.multipliers
  await run.getByRole('button', { name: 'Make a place grey' }).click()
  const place = page.getByTestId('grey place-frame')
  const box = (await place.boundingBox())!
  await place.click({ position: { x: 0.45 * box.width, y: 0.55 * box.height } })
  await page.getByRole('button', { name: 'Develop all frames by it' }).click()
  await expect(run).toContainText('so that a place of it is grey')
  const { neutral, multipliers } = (await first()).development
  expect(neutral).toEqual([expect.closeTo(0.45, 2), expect.closeTo(0.55, 2)])
  // The stone there is warm: made grey, red is raised less and blue more.
  expect(multipliers[2] / multipliers[0]).toBeGreaterThan(1.02 * (noted[2] / noted[0]))
  await run.getByRole('button', { name: 'As the camera noted it' }).click()
  await expect.poll(async () => (await first()).development.multipliers).toEqual(noted)

  await run.getByRole('button', { name: /^Fuse/ }).click()
  await expect(page).toHaveURL(/\/result\?render=\d+$/)
  await page.getByRole('link', { name: 'Shoot', exact: true }).click()
  await expect(run).toContainText('with the white balance of frame_003.dng')

  const render = (await first()).renders[0].id
  await page.goto(`/shoots/${id}/deliver?render=${render}`)
  await choose(page, 'Format', 'JPEG')
  const { contents } = await download(page, 'Write the file')
  // The truth is what the camera would see with everything sharp: the middle of the shell, compared as a whole and by colour.
  const truthFile = readdirSync(`${CARD}/truth`).find((name) => name.startsWith('truth_'))!
  const middle = (picture: Buffer) =>
    sharp(picture).resize(720, 480, { fit: 'cover' }).extract({ left: 200, top: 120, width: 320, height: 240 }).toColourspace('srgb').stats()
  const [made, truth] = [await middle(contents), await middle(readFileSync(`${CARD}/truth/${truthFile}`))]
  made.channels.slice(0, 3).forEach(({ mean }, k) => expect(Math.abs(mean - truth.channels[k].mean)).toBeLessThan(6))
})
