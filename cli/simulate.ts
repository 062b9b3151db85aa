import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import { parseArgs } from 'node:util'
import { writeGrey, writePicture, writeWhole } from '@/codec'
import { SimulatedSeries, type SeriesRequest } from '@/core/simulate'
import { check, InputError, sceneRequestSchema } from '@/schemas'
import { readJson } from './plan'
import { progressTo } from './progress'

const USAGE = 'Usage: nitidus simulate scene.json --out DIR [--truth] [--progress]'

/**
 * `nitidus simulate`: shoots a simulated series into a folder as a camera writes it, with `truth.json` beside the
 * frames. `--truth` adds `truth/truth_00.png`, the reference view with everything sharp, and `truth/depth_00.png`, its
 * depth in 16 bits: `depthRange_mm` of `truth.json` says what 0 and 65535 stand for.
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
  const depthRange_mm = values.truth ? await writeTruth(path.join(values.out, 'truth'), series) : undefined
  const truth = { ...request, reference: frameName(series.reference), ...(depthRange_mm && { depthRange_mm }), frames }
  await writeWhole(path.join(values.out, 'truth.json'), JSON.stringify(truth, null, 2))
}

/** The view with everything sharp and its depth; answers the range of depths. */
async function writeTruth(folder: string, series: SimulatedSeries): Promise<[number, number]> {
  await mkdir(folder, { recursive: true })
  await writePicture(path.join(folder, 'truth_00.png'), series.truth(), { bits: 8 })
  const depth = series.truthDepth_mm()
  const [near, far] = depth.data.reduce(([least, most], z) => [Math.min(least, z), Math.max(most, z)], [Infinity, -Infinity])
  const scaled = { ...depth, data: depth.data.map((z) => ((z - near) / Math.max(far - near, 1e-9)) * 65535) }
  await writeGrey(path.join(folder, 'depth_00.png'), scaled, 16)
  return [near, far]
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
