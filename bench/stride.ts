import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { strideByScale, type PlanRequest } from '@/core/plan'
import { macro } from '@/core/plan/testRequests'
import { gaussian, randomStream } from '@/core/simulate'
import type { FuseReport } from '@/schemas'

/**
 * The stride that the frames themselves tell, against where the simulated focus was between the same frames:
 * `npm run bench:stride -- 24 [seed]`. Runs by ring and rail, 8 frames or more, whose steps stray by up to a tenth.
 */
const [runs = '24', seed = '20261129'] = process.argv.slice(2)
const folder = path.resolve('dist/bench-stride')
const at = (...names: string[]) => path.join(folder, ...names)
const nitidus = (...args: string[]) => {
  const { status, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
}
const SCENES = [
  { scene: 'fossil', magnification: 1, stride: 0.9 },
  { scene: 'nib', magnification: 0.5, stride: 3.2 },
  { scene: 'bristles', magnification: 1, stride: 0.8 },
  { scene: 'bowl', magnification: 0.5, stride: 2.6 },
]
const random = randomStream(Number(seed))
const errors: number[] = []
/** What was told of the spread by what it truly was, each as a part of its stride. */
const spreads = { known: [] as number[], atMost: [] as number[] }
let told = 0
for (let k = 0; k < Number(runs); k++) {
  const { scene, magnification, stride } = SCENES[k % SCENES.length]
  const mover = Math.floor(k / SCENES.length) % 2 ? 'rail' : 'ring'
  const count = 8 + Math.floor(7 * random())
  const stray = 0.1 * random()
  const positions_mm = [0]
  for (let n = 1; n < count; n++) positions_mm.push(positions_mm[n - 1] + stride * (1 + stray * gaussian(random)))
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
  const camera = { width_px: 720, height_px: 480, mover, fNumber: 5.6, magnification, focalLength_mm: 100 }
  writeFileSync(at('scene.json'), JSON.stringify({ scene, seed: 50 + k, camera, positions_mm }))
  nitidus('simulate', at('scene.json'), '--out', at('frames'))
  nitidus('fuse', at('frames'), '--out', at('out.jpg'), '--report', at('report.json'), '--moving', 'blend', '--dust', 'off')
  const report = JSON.parse(readFileSync(at('report.json'), 'utf8')) as FuseReport
  // The simulated camera has its magnification in the middle of the series; a plan's is that of the near edge.
  const middle_mm = 100 * (1 + 1 / magnification)
  const near_mm = middle_mm - positions_mm[Math.ceil(count / 2) - 1]
  const request = {
    ...macro,
    mover: { ...macro.mover, kind: mover },
    optics: { ...macro.optics, magnification: mover === 'ring' ? 100 / (near_mm - 100) : magnification },
  } as PlanRequest
  const found = strideByScale(report.frames, request)
  const { first, steps: number } = found ?? { first: 0, steps: count - 1 }
  const steps = positions_mm.slice(first + 1, first + 1 + number).map((place, n) => place - positions_mm[first + n])
  const mean = steps.reduce((a, b) => a + b) / steps.length
  const spread = Math.sqrt(steps.reduce((sum, step) => sum + (step - mean) ** 2, 0) / (steps.length - 1))
  if (found) {
    told++
    errors.push(Math.abs(found.mean_mm / mean - 1))
    spreads[found.spreadKnown ? 'known' : 'atMost'].push(found.spread_mm / spread)
  }
  const said = found ? `${found.mean_mm.toFixed(3)} ${found.spreadKnown ? '±' : '± at most'} ${found.spread_mm.toFixed(3)}` : 'nothing'
  console.log(`${scene} by ${mover}, ${count} frames: ${said}, truly ${mean.toFixed(3)} ± ${spread.toFixed(3)} mm`)
}
errors.sort((a, b) => a - b)
console.log(
  `told ${told} of ${runs}; off by ${(100 * errors[errors.length >> 1]).toFixed(1)} % in the middle, at the most ${(100 * errors.at(-1)!).toFixed(1)} %; within 3 %: ${errors.filter((error) => error <= 0.03).length}`,
)
const { known, atMost } = spreads
const third = known.filter((ratio) => Math.abs(ratio - 1) <= 1 / 3).length
const above = atMost.filter((ratio) => ratio >= 1).length
console.log(`the spread is known of ${known.length}, within a third in ${third}; told as at most so much of ${atMost.length}, rightly in ${above}`)
