import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { writePicture, writeWhole } from '@/codec'
import { SimulatedSeries, type SeriesRequest } from '@/core/simulate'
import { check, InputError, sceneRequestSchema } from '@/schemas'
import { readJson } from './plan'
import { progressTo } from './progress'

const USAGE = 'Usage: nitidus simulate scene.json --out DIR [--truth] [--progress]'

/**
 * `nitidus simulate`: shoots a simulated series into a folder as a camera writes it, with `truth.json` beside the
 * frames. `--truth` adds `truth/truth.png`, the reference view with everything sharp.
 */
export async function simulate(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { out: { type: 'string' }, truth: { type: 'boolean' }, progress: { type: 'boolean' } },
  })
  if (positionals.length !== 1 || !values.out) throw new InputError(USAGE)
  const request = check<SeriesRequest>(sceneRequestSchema, await readJson(positionals[0]))
  const progress = progressTo(values.progress ? process.stderr : undefined)
  await mkdir(values.out, { recursive: true })
  progress({ stage: 'scene', frame: 0, of: request.positions_mm.length })
  const series = new SimulatedSeries(request)
  const { count } = series
  const frames: object[] = []
  for (let index = 0; index < count; index++) {
    const { picture, position_mm, motion, exposure, faults } = series.shoot(index)
    const file = frameName(index)
    await writePicture(path.join(values.out, file), picture, { bits: 8, exif: exifOf(request, index, exposure) })
    const { scale, rotation_rad, dx_px, dy_px } = motion
    frames.push({ file, position_mm, scale, rotation_deg: (rotation_rad * 180) / Math.PI, dx_px, dy_px, exposure, faults })
    progress({ stage: 'frame', frame: index + 1, of: count, file, ...(!faults.includes('divider') && { position_mm }) })
  }
  await writeWhole(path.join(values.out, 'truth.json'), JSON.stringify({ ...request, reference: frameName(series.reference), frames }, null, 2))
  if (values.truth) {
    await mkdir(path.join(values.out, 'truth'), { recursive: true })
    await writePicture(path.join(values.out, 'truth', 'truth_00.png'), series.truth(), { bits: 8 })
  }
}

function frameName(index: number): string {
  return `frame_${String(index + 1).padStart(3, '0')}.jpg`
}

/** What a camera notes in each file. The clock starts where the series does and a frame takes four seconds. */
function exifOf({ camera }: SeriesRequest, index: number, exposure: number) {
  const time = new Date(Date.UTC(2026, 4, 11, 9, 30) + index * 4000)
  const stamp = time.toISOString().slice(0, 19).replaceAll('-', ':').replace('T', ' ')
  return {
    IFD0: { Model: 'Body A', Software: 'Nitidus simulator', DateTime: stamp },
    IFD2: {
      DateTimeOriginal: stamp,
      ExposureTime: `${Math.round(exposure * 1000)}/8000`,
      FNumber: `${Math.round(camera.fNumber * 10)}/10`,
      FocalLength: `${Math.round(camera.focalLength_mm)}/1`,
      ISOSpeedRatings: '100',
    },
  }
}
