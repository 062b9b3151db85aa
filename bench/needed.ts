import { execFileSync, spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { readSamples } from '@/codec'
import { framesNeeded, judged, keptDetail, type Luma } from '@/core/needed'
import { randomStream } from '@/core/simulate'
import { check, checkBends, placeOf, registrationOf, reportSchema, type FuseReport, type NeededReport } from '@/schemas'
import { KnownSeries } from '../cli/needed/fewerFrames'
import { gatherTeam } from '../cli/fuse/team'
import { lumaOf } from '../cli/needed/runNeeded'

/**
 * How well the fewest frames are told: runs shot two to five times too densely, against the fewest whose picture has no more loss
 * by the truth: `npm run bench:needed -- 12`. Prints how long it takes beside one render.
 */
const [runs = '12'] = process.argv.slice(2)
const folder = path.resolve('dist/bench-needed')
const at = (...names: string[]) => path.join(folder, ...names)
const nitidus = (...args: string[]) => {
  const began = performance.now()
  const { status, stderr, stdout } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
  return { stdout, seconds: (performance.now() - began) / 1000 }
}

const SCENES = [
  { scene: 'fossil', magnification: 1, fNumber: 5.6, from: -1, to: 10, stride: 1.4 },
  { scene: 'nib', magnification: 0.5, fNumber: 5.6, from: -2, to: 36, stride: 4.5 },
  { scene: 'bristles', magnification: 1, fNumber: 4, from: -1, to: 9, stride: 1 },
  { scene: 'bowl', magnification: 0.5, fNumber: 8, from: -1, to: 26, stride: 6 },
]
const jumps = randomStream(20261129)
let [near, all] = [0, 0]
execFileSync(process.execPath, ['dist/nitidus.mjs', '--help'], { stdio: 'ignore' })
for (let k = 0; k < Number(runs); k++) {
  const { scene, magnification, fNumber, from, to, stride } = SCENES[k % SCENES.length]
  const dense = 2 + 3 * jumps()
  const count = Math.round(((to - from) / stride) * dense) + 1
  const positions_mm = Array.from({ length: count }, (_, n) => from + (n * stride) / dense)
  const camera = { width_px: 900, height_px: 600, mover: k % 2 ? 'rail' : 'ring', fNumber, magnification, focalLength_mm: 100 }
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
  writeFileSync(at('scene.json'), JSON.stringify({ scene, seed: 100 + k, camera, positions_mm }))
  nitidus('simulate', at('scene.json'), '--out', at('frames'), '--truth')
  const { reference } = JSON.parse(readFileSync(at('frames', 'truth.json'), 'utf8')) as { reference: string }
  const framing = String(Number(/(\d+)\.jpg$/.exec(reference)![1]))
  const files = ['--report', at('report.json'), '--bends', at('bends.json')]
  const render = nitidus('fuse', at('frames'), '--out', at('out.tif'), '--reference', framing, ...files)
  const asked = nitidus('frames-needed', at('frames'), ...files)
  const told = JSON.parse(asked.stdout) as NeededReport
  const fewest = await fewestByTruth()
  const apart = told.fewest.frames - fewest
  near += Number(Math.abs(apart) <= 1)
  all++
  const times = asked.seconds / render.seconds
  console.log(
    `${scene} ${camera.mover}, ${count} frames, ${dense.toFixed(1)} times too dense: told ${told.fewest.frames}, by the truth ${fewest}; ${times.toFixed(2)} renders`,
  )
}
console.log(`within one frame: ${near} of ${all}`)

/** The fewest frames whose picture keeps as much of the truth's detail, tile by tile, as that of all frames. */
async function fewestByTruth(): Promise<number> {
  const report = check<FuseReport>(reportSchema, JSON.parse(readFileSync(at('report.json'), 'utf8')))
  const registration = registrationOf(report, checkBends(JSON.parse(readFileSync(at('bends.json'), 'utf8'))))
  const truthFile = await readSamples(at('frames', 'truth', 'truth_00.png'))
  const { width, height } = truthFile
  const wide = Uint16Array.from(truthFile.samples, (value) => (truthFile.samples instanceof Uint16Array ? value : 257 * value))
  const truth: Luma = lumaOf({ width, samples: wide }, report.crop)
  const frames = report.frames.map(({ file }) => ({ file: { name: file, file: at('frames', file) }, place: placeOf(registration, file)! }))
  const team = await gatherTeam()
  const series = new KnownSeries(frames, { width, height }, report.settings, team.kernels)
  const kept = async (places: number[]) => keptDetail(truth, lumaOf(await series.fuse(places, () => undefined), report.crop))
  const whole = await kept([...frames.keys()])
  const { fewest } = await framesNeeded(frames.length, async (places) => {
    const some = await kept(places)
    return judged(truth, { ...some, kept: some.kept.map((share, tile) => share / whole.kept[tile]) })
  })
  await team.dismiss()
  return fewest?.frames.length ?? frames.length
}
