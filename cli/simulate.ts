import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import type { Command } from 'commander'
import { writeGrey, writePicture, writeRaw, writeWhole } from '@/codec'
import type { TakenWith } from '@/core/formats'
import { CaptureSeries, SimulatedSeries, type CameraFile, type SeriesRequest } from '@/core/simulate'
import { check, sceneRequestSchema, type ShootJob } from '@/schemas'
import { readJson } from './json'
import { progressTo, type Progress } from './progress'

/**
 * `nitidus simulate`: shoots a simulated series into a folder as a camera writes it, with `truth.json` beside the
 * frames. `--truth` adds `truth/truth_00.png`, the reference view with everything sharp (where the scene's own wind blows
 * one for the moment of each frame, `truth_00.png`, `truth_01.png`, …), and `truth/depth_00.png`, its depth in 16 bits: `depthRange_mm` of
 * `truth.json` says what 0 and 65535 stand for.
 */
export function addSimulate(program: Command): void {
  program
    .command('simulate')
    .description('shoot a series with the simulated camera, with the truth beside it')
    .argument('<scene>', 'JSON file with scene, camera and positions, or - for standard input')
    .requiredOption('--out <folder>', 'folder for the frames')
    .option('--truth', 'write the view with everything sharp and its depth as well')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (file: string, { out, truth, progress }: { out: string; truth?: boolean; progress?: boolean }) => {
      await shootSeries(check<SeriesRequest>(sceneRequestSchema, await readJson(file)), out, progressTo(progress), truth)
    })
}

/** The job of kind `shoot`. */
export const runShoot = ({ scene, out }: ShootJob, progress: Progress) => shootSeries(scene, out, progress)

async function shootSeries(request: SeriesRequest, out: string, progress: Progress, withTruth = false): Promise<void> {
  await mkdir(out, { recursive: true })
  progress({ stage: 'scene', frame: 0, of: request.positions_mm.length })
  if (request.captures) return shootSets({ ...request, captures: request.captures }, out, progress, withTruth)
  const series = new SimulatedSeries(request)
  const { count } = series
  const frames: object[] = []
  for (let index = 0; index < count; index++) {
    const { picture, raw, position_mm, motion, exposure, faults } = series.shoot(index)
    const file = frameName(index, request.files)
    const taken = takenWith(request, index, exposure)
    if (raw) await writeRaw(path.join(out, file), raw, picture, taken, SOFTWARE)
    else await writePicture(path.join(out, file), picture, { bits: 8, taken, software: SOFTWARE })
    const { scale, rotation_rad, dx_px, dy_px } = motion
    frames.push({ file, position_mm, scale, rotation_deg: (rotation_rad * 180) / Math.PI, dx_px, dy_px, exposure, faults })
    progress({ stage: 'frame', frame: index + 1, of: count, file, ...(!faults.includes('divider') && { position_mm }) })
  }
  const depthRange_mm = withTruth ? await writeTruth(path.join(out, 'truth'), series) : undefined
  const truth = { ...request, reference: frameName(series.reference, request.files), ...(depthRange_mm && { depthRange_mm }), frames }
  await writeWhole(path.join(out, 'truth.json'), JSON.stringify(truth, null, 2))
}

/** Several captures of each frame; the truth is twice as fine as the sensor. */
async function shootSets(request: SeriesRequest & { captures: number }, out: string, progress: Progress, withTruth: boolean): Promise<void> {
  const series = new CaptureSeries(request)
  const { count } = series
  const frames: object[] = []
  for (let index = 0; index < count; index++) {
    const { picture, captures, position_mm, exposure } = series.shoot(index)
    const files = captures.map((_, k) => frameName(index, 'dng').replace('.', `_${String(k + 1).padStart(2, '0')}.`))
    for (const [k, raw] of captures.entries()) await writeRaw(path.join(out, files[k]), raw, picture, takenWith(request, index, exposure), SOFTWARE)
    frames.push({ files, position_mm, exposure })
    progress({ stage: 'frame', frame: index + 1, of: count, file: files[0], position_mm })
  }
  if (withTruth) {
    await mkdir(path.join(out, 'truth'), { recursive: true })
    await writePicture(path.join(out, 'truth', 'truth_00.png'), series.truth(), { bits: 8 })
  }
  await writeWhole(path.join(out, 'truth.json'), JSON.stringify({ ...request, reference: series.reference + 1, frames }, null, 2))
}

/** The view with everything sharp and its depth; answers the range of depths. */
async function writeTruth(folder: string, series: SimulatedSeries): Promise<[number, number]> {
  await mkdir(folder, { recursive: true })
  const moments = series.hasMoments ? Array.from({ length: series.count }, (_, k) => k) : [undefined]
  for (const moment of moments)
    await writePicture(path.join(folder, `truth_${String(moment ?? 0).padStart(2, '0')}.png`), series.truth(moment), { bits: 8 })
  const depth = series.truthDepth_mm()
  const [near, far] = depth.data.reduce(([least, most], z) => [Math.min(least, z), Math.max(most, z)], [Infinity, -Infinity])
  const scaled = { ...depth, data: depth.data.map((z) => ((z - near) / Math.max(far - near, 1e-9)) * 65535) }
  await writeGrey(path.join(folder, 'depth_00.png'), scaled, 16)
  return [near, far]
}

const SOFTWARE = 'Nitidus simulator'

function frameName(index: number, ending: CameraFile = 'jpg'): string {
  return `frame_${String(index + 1).padStart(3, '0')}.${ending}`
}

/** What a camera notes in each file. The clock starts where the series does and a frame takes four seconds. */
function takenWith({ camera }: SeriesRequest, index: number, exposure: number): TakenWith {
  return {
    body: 'Body A',
    taken_at: new Date(Date.UTC(2026, 4, 11, 9, 30) + index * 4000).toISOString(),
    exposure_s: exposure / 8,
    fNumber: camera.fNumber,
    focalLength_mm: camera.focalLength_mm,
    iso: 100,
  }
}
