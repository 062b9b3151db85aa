import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { readGrey } from '@/codec'
import { magnificationAt, subjectDistance_mm } from '@/core/optics'
import type { PlanRequest } from '@/core/plan'
import { measured, pixelAt, pixelSizeOf, surfaceOf } from '@/core/relief'
import { randomStream } from '@/core/simulate'
import { NO_TIMING } from '@/core/plan'

/**
 * Lengths and heights measured on fused series against the simulator's truth, between places at random: `npm run bench:measuring -- 400`. A
 * length across counts against the place where each end really is; a height where the depth is said to be sure at both ends.
 */
const [count = '400'] = process.argv.slice(2)
const folder = path.resolve('dist/bench-measuring')
const at = (...names: string[]) => path.join(folder, ...names)
const [WIDTH, HEIGHT, SENSOR_mm, FOCAL_mm] = [900, 600, 36, 100]
/** A place counts as sure from this confidence on. */
const SURE = 0.5

const evenly = (from: number, stride: number, frames: number) => Array.from({ length: frames }, (_, k) => from + k * stride)
const SERIES = [
  { scene: 'fossil', mover: 'rail', magnification: 1, fNumber: 5.6, positions_mm: evenly(-1, 0.85, 14) },
  { scene: 'fossil', mover: 'ring', magnification: 1, fNumber: 5.6, positions_mm: evenly(-1, 0.85, 14) },
  { scene: 'nib', mover: 'ring', magnification: 0.5, fNumber: 5.6, positions_mm: evenly(-2, 2.8, 15) },
  { scene: 'bristles', mover: 'rail', magnification: 1, fNumber: 4, positions_mm: evenly(-1, 0.75, 14) },
  { scene: 'bowl', mover: 'ring', magnification: 0.5, fNumber: 5.6, positions_mm: evenly(-2, 2.8, 15) },
] as const

function nitidus(...args: string[]): void {
  const { status, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
}

/** The plan that such a series was shot by: with the ring its magnification is that of the near edge. */
function planOf({ mover, magnification, fNumber }: (typeof SERIES)[number]): PlanRequest {
  return {
    camera: { sensorWidth_mm: SENSOR_mm, sensorHeight_mm: 24, pixelsWide: WIDTH, rawSize_MB: 1 },
    optics: { kind: 'lens', focalLength_mm: FOCAL_mm, fNumber, pupilRatio: 1, magnification },
    sharpness: { kind: 'pixels', pixels: 2 } as never,
    diffraction: true,
    wavelength_nm: 550,
    subject: { kind: 'depth', depth_mm: 10 },
    mover: mover === 'rail' ? { kind: 'rail', resolution_mm: 0.01 } : { kind: 'ring' },
    overlap: 0.3,
    leadIn_slices: 0,
    runOut_slices: 0,
    timing: NO_TIMING,
  }
}

const part = (sorted: number[], of: number) => sorted[Math.floor(of * (sorted.length - 1))]
console.log(
  'series           across, error: middle   95 %   most | 95 %, sure places | within what was told | pixel, error | heights within half a slice, sure places | within what was told, all',
)
for (const series of SERIES) {
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
  const { scene, mover, magnification, fNumber, positions_mm } = series
  const middle_mm = positions_mm[Math.ceil(positions_mm.length / 2) - 1]
  const inMiddle = mover === 'ring' ? magnificationAt(FOCAL_mm, subjectDistance_mm(FOCAL_mm, magnification) + middle_mm) : magnification
  const camera = { sensorWidth_mm: SENSOR_mm, width_px: WIDTH, height_px: HEIGHT, focalLength_mm: FOCAL_mm, fNumber, magnification: inMiddle, mover }
  const unsteadiness = { shift_px: 0.6, rotation_deg: 0.02, exposure_ev: 0.02 }
  writeFileSync(at('scene.json'), JSON.stringify({ scene, camera, positions_mm, seed: 7, unsteadiness, fullWell: 30_000 }))
  nitidus('simulate', at('scene.json'), '--out', at('frames'), '--truth')
  const truth = JSON.parse(readFileSync(at('frames', 'truth.json'), 'utf8'))
  writeFileSync(
    at('positions.json'),
    JSON.stringify(Object.fromEntries(truth.frames.map((frame: { file: string; position_mm: number }) => [frame.file, frame.position_mm]))),
  )
  const maps = [
    '--depth',
    at('depth.png'),
    '--confidence',
    at('confidence.png'),
    '--positions',
    at('positions.json'),
    '--reference',
    String(Math.ceil(positions_mm.length / 2)),
  ]
  nitidus('fuse', at('frames'), '--out', at('result.tif'), '--report', at('report.json'), ...maps)
  const { depth, crop } = JSON.parse(readFileSync(at('report.json'), 'utf8'))
  const pixelSize = pixelSizeOf(planOf(series), WIDTH, middle_mm)!
  const facts = { unit: depth.unit, at0: depth.at0, at65535: depth.at65535, slices: [...positions_mm], pixelSize }
  const surface = surfaceOf(await readGrey(at('depth.png')), await readGrey(at('confidence.png')), facts, crop.width)
  const deep = await readGrey(at('frames', 'truth', 'depth_00.png'))
  const [near, far] = truth.depthRange_mm
  const truly = ([x, y]: [number, number]) => near + (deep.data[(crop.y + y) * WIDTH + crop.x + x] / 65535) * (far - near)
  // The camera's own geometry, written out: px to mm by distance from the pupil.
  const distance = subjectDistance_mm(FOCAL_mm, inMiddle)
  const sizeTrue = (z: number) => (SENSOR_mm / WIDTH / inMiddle) * ((distance + z - middle_mm) / distance)
  const aside = ([x, y]: [number, number]) => {
    const size = sizeTrue(truly([x, y]))
    return [(crop.x + x - (WIDTH - 1) / 2) * size, (crop.y + y - (HEIGHT - 1) / 2) * size]
  }
  const random = randomStream(3)
  const anywhere = (): [number, number] => [Math.floor(random() * crop.width), Math.floor(random() * crop.height)]
  const stride = positions_mm[1] - positions_mm[0]
  const across: number[] = []
  const surely: number[] = []
  let acrossTold = 0
  let [sure, within, all, told] = [0, 0, 0, 0]
  for (let k = 0; k < Number(count); k++) {
    const [a, b] = [anywhere(), anywhere()]
    if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 100) continue
    const found = measured(surface, a, b)
    const [pa, pb] = [aside(a), aside(b)]
    const length = Math.hypot(pb[0] - pa[0], pb[1] - pa[1])
    const { value, uncertain } = found.across_mm!
    across.push(Math.abs(value / length - 1))
    if (Math.min(found.from.confidence, found.to.confidence) >= SURE) surely.push(across.at(-1)!)
    if (Math.abs(value - length) <= uncertain) acrossTold++
    for (const [place, { depth: z, uncertain, confidence }] of [
      [a, found.from],
      [b, found.to],
    ] as const) {
      const off = Math.abs(z - truly(place))
      all++
      if (off <= uncertain) told++
      if (confidence < SURE) continue
      sure++
      if (off <= stride / 2) within++
    }
  }
  const lengths = across.length
  for (const errors of [across, surely]) errors.sort((a, b) => a - b)
  const percent = (value: number) => `${(100 * value).toFixed(2)} %`.padStart(8)
  const off = Math.abs(pixelAt(pixelSize, middle_mm) / sizeTrue(middle_mm) - 1)
  console.log(
    `${scene.padEnd(9)} ${mover.padEnd(5)}`,
    percent(part(across, 0.5)),
    percent(part(across, 0.95)),
    percent(across.at(-1)!),
    '|',
    percent(part(surely, 0.95)),
    `of ${surely.length}`,
    '|',
    `${acrossTold} of ${lengths}, ${percent(acrossTold / lengths)}`,
    '|',
    percent(off),
    '|',
    `${within} of ${sure}, ${percent(within / sure)}`,
    '|',
    `${told} of ${all}, ${percent(told / all)}`,
  )
}
rmSync(folder, { recursive: true, force: true })
