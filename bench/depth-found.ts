import { spawnSync } from 'node:child_process'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { defocusBlur_mm } from '@/core/optics'
import { gaussian, randomStream } from '@/core/simulate'
import type { SurveyReport } from '@/core/survey'

/**
 * The depth of field that runs tell, against that of the simulated camera: `npm run bench:depth-found -- 20`. Runs at several apertures and
 * sizes, by ring and rail, 8 to 16 frames; the last ones of subjects that cannot tell it.
 */
const [runs = '20'] = process.argv.slice(2)
const folder = path.resolve('dist/bench-depth-found')
const at = (...names: string[]) => path.join(folder, ...names)
const nitidus = (...args: string[]) => {
  const { status, stderr, stdout } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8', maxBuffer: 1e8 })
  if (status !== 0) throw new Error(stderr)
  return stdout
}
const SENSOR_mm = 36
const SCENES = [
  { scene: 'fossil', magnification: 1, depth_mm: 8, fNumber: 5.6 },
  { scene: 'nib', magnification: 0.5, depth_mm: 26, fNumber: 8 },
  { scene: 'bristles', magnification: 1, depth_mm: 8, fNumber: 4 },
  { scene: 'bowl', magnification: 0.5, depth_mm: 24, fNumber: 5.6 },
  { scene: 'fossil', magnification: 0.7, depth_mm: 10, fNumber: 4 },
  { scene: 'fossil', magnification: 1.5, depth_mm: 6, fNumber: 11 },
  { scene: 'nib', magnification: 0.7, depth_mm: 20, fNumber: 11 },
  { scene: 'bristles', magnification: 0.7, depth_mm: 9, fNumber: 8 },
  { scene: 'bowl', magnification: 0.35, depth_mm: 30, fNumber: 4 },
  { scene: 'fossil', magnification: 2, depth_mm: 5, fNumber: 8 },
]
const random = randomStream(20261130)
const errors: number[] = []
for (let k = 0; k < Number(runs); k++) {
  const { scene, magnification, depth_mm, fNumber } = SCENES[k % SCENES.length]
  const mover = Math.floor(k / SCENES.length) % 2 ? 'rail' : 'ring'
  const count = 8 + Math.floor(9 * random())
  const stray = 0.05 * random()
  const stride = depth_mm / (count - 2)
  const positions_mm = [-0.5 * stride]
  for (let n = 1; n < count; n++) positions_mm.push(positions_mm[n - 1] + stride * (1 + stray * gaussian(random)))
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
  const camera = { width_px: 1200, height_px: 800, mover, fNumber, magnification, focalLength_mm: 100, sensorWidth_mm: SENSOR_mm }
  writeFileSync(at('scene.json'), JSON.stringify({ scene, seed: 70 + k, camera, positions_mm }))
  nitidus('simulate', at('scene.json'), '--out', at('frames'))
  const { blurStep } = JSON.parse(nitidus('survey', at('frames'))) as SurveyReport
  const steps = positions_mm.slice(1).map((place, n) => place - positions_mm[n])
  const usual_mm = steps.reduce((a, b) => a + b) / steps.length
  // The simulated lens is a thin one, whose pupils are alike.
  const truly = defocusBlur_mm(usual_mm, magnification, fNumber * (1 + magnification)) / SENSOR_mm
  const said = blurStep ? `${(blurStep.ofWidth / truly).toFixed(3)} ± ${blurStep.spread.toFixed(3)}` : 'nothing'
  if (blurStep) errors.push(Math.abs(truly / blurStep.ofWidth - 1))
  console.log(`${scene} at ${magnification} : 1, f/${fNumber} by ${mover}, ${count} frames, ${(1200 * truly).toFixed(2)} px a step: ${said}`)
}
errors.sort((a, b) => a - b)
const within = (part: number) => errors.filter((error) => error <= part).length
console.log(
  `told ${errors.length} of ${runs}; off by ${(100 * errors[errors.length >> 1]).toFixed(1)} % in the middle, at the most ${(100 * errors.at(-1)!).toFixed(1)} %; within 10 %: ${within(0.1)}`,
)
