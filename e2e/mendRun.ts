import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { expect, type APIRequestContext, type Locator, type Page } from '@playwright/test'
import sharp from 'sharp'
import { fused, storedRun } from './storedRun'

/** One for each that tests side by side: frames are changed after they were shot. */
const NAME = `to-mend-${process.env.TEST_PARALLEL_INDEX ?? 0}`
const FOLDER = `.e2e/import/${NAME}`
const [WIDTH, HEIGHT] = [480, 320]
/** Where a part slips in frames 5 and 6. */
export const GHOST = { x: 200, y: 150, radius: 26 }

/** Nine frames; in two of them a disc of the subject slips by 8 px, so that the picture shows it twice. */
async function frames(): Promise<void> {
  if (existsSync(path.join(FOLDER, 'truth.json'))) return
  mkdirSync(FOLDER, { recursive: true })
  const scene = path.join(FOLDER, '..', `${NAME}.json`)
  const camera = { width_px: WIDTH, height_px: HEIGHT, mover: 'ring', fNumber: 5.6 }
  writeFileSync(scene, JSON.stringify({ scene: 'fossil', seed: 5, camera, positions_mm: [0, 1.1, 2.2, 3.3, 4.4, 5.5, 6.6, 7.7, 8.8] }))
  execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', FOLDER])
  for (const name of ['frame_005.jpg', 'frame_006.jpg']) {
    const file = path.join(FOLDER, name)
    const { data } = await sharp(readFileSync(file)).raw().toBuffer({ resolveWithObject: true })
    const moved = Buffer.from(data)
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        if (Math.hypot(x - GHOST.x, y - GHOST.y) < GHOST.radius)
          data.copy(moved, 3 * (y * WIDTH + x), 3 * ((y + 3) * WIDTH + x + 8), 3 * ((y + 3) * WIDTH + x + 8) + 3)
    writeFileSync(
      file,
      await sharp(moved, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
        .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
        .toBuffer(),
    )
  }
  expect(readdirSync(FOLDER).filter((name) => name.endsWith('.jpg'))).toHaveLength(9)
}

export interface Opened {
  render: number
  address: string
}

/** Stores the frames in a shoot of their own and fuses them, by the API. Returns the fused render and the address of its mend. */
export async function openMend(request: APIRequestContext): Promise<Opened> {
  await frames()
  const files = readdirSync(FOLDER).filter((file) => file.endsWith('.jpg')).map((name) => path.join(FOLDER, name)) // prettier-ignore
  const { shoot, run } = await storedRun(request, `Frames of ${NAME}`, files)
  // Blended on purpose: the part that slipped appears twice.
  return { render: await fused(request, run, { moving: 'blend' }), address: `/shoots/${shoot}/mend` }
}

export const edits = (page: Page) => page.getByRole('list', { name: 'Edits' }).getByRole('listitem')
export const glass = (page: Page) => page.getByTestId('porthole')
export const through = (page: Page) => page.getByTestId('through')

/** The middle of the view, where the picture's middle lies. */
export async function middleOf(stage: Locator) {
  const { x, y, width, height } = (await stage.boundingBox())!
  return { x: x + width / 2, y: y + height / 2 }
}

/** The picture's px under what is seen at a place of the screen. */
export async function seenAt(page: Page, { x, y }: { x: number; y: number }): Promise<number[]> {
  const shot = await page.screenshot({ clip: { x: Math.round(x), y: Math.round(y), width: 2, height: 2 } })
  return [...(await sharp(shot).removeAlpha().raw().toBuffer()).subarray(0, 3)]
}

/** What a part of the page looks like once nothing is loaded any more: the same twice in a row. */
export async function steady(page: Page, clip: { x: number; y: number; width: number; height: number }): Promise<Buffer> {
  let last = await page.screenshot({ clip })
  await expect(async () => {
    await page.waitForTimeout(400)
    const next = await page.screenshot({ clip })
    const same = next.equals(last)
    last = next
    expect(same).toBe(true)
  }).toPass()
  return last
}
