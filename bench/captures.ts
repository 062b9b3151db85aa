import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, statSync, readdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { macro } from '@/core/plan/testRequests'
import { planSeries, type PlanRequest } from '@/core/plan'
import { sensorPlaces } from '@/core/simulate'
import type { FuseReport } from '@/schemas'

/**
 * Frames of many captures with a shifted sensor, fused as one job: time, memory, and room on the card against the plan's.
 * `npm run bench:captures -- 30 16 1500`: frames, captures of each, px across.
 */
const [frames, captures, width_px] = ['30', '16', '1500'].map((usual, k) => Number(process.argv[2 + k] ?? usual))
const folder = path.resolve('dist/bench-captures')
const at = (...names: string[]) => path.join(folder, ...names)
const nitidus = (...args: string[]) => {
  const { status, stderr } = spawnSync('/usr/bin/time', ['-f', '%M', process.execPath, 'dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
  return Number(stderr.trim().split('\n').at(-1)) / 1024
}
rmSync(folder, { recursive: true, force: true })
mkdirSync(folder, { recursive: true })
const camera = { width_px, height_px: Math.round(width_px / 1.5), mover: 'rail', fNumber: 5.6, magnification: 0.5, focalLength_mm: 100 }
const positions_mm = Array.from({ length: frames }, (_, k) => (33 * k) / (frames - 1))
writeFileSync(at('scene.json'), JSON.stringify({ scene: 'nib', seed: 9, files: 'dng', captures, camera, positions_mm }))
nitidus('simulate', at('scene.json'), '--out', at('card'))
const { frames: shot } = JSON.parse(readFileSync(at('card', 'truth.json'), 'utf8')) as { frames: { files: string[] }[] }
const sizes = readdirSync(at('card')).flatMap((name) => (name.endsWith('.dng') ? [statSync(at('card', name)).size] : []))
const one_MB = sizes[0] / 1e6
const { camera: body } = macro
const request = { ...macro, camera: { ...body, rawSize_MB: one_MB }, timing: { ...macro.timing, exposuresPerFrame: captures } } as PlanRequest
const plan = planSeries(request)
const taken_MB = sizes.reduce((a, b) => a + b, 0) / 1e6
console.log(`on the card ${taken_MB.toFixed(0)} MB; by the plan ${((plan.storage_MB / plan.frameCount) * frames).toFixed(0)} MB`)
for (const count of [Math.ceil(frames / 4), frames]) {
  const job = {
    version: 1,
    kind: 'fuse',
    frames: shot.slice(0, count).map(({ files }, k) => ({
      name: files[0],
      file: at(`developed-${count}`, `${k}.tif`),
      raw: {
        file: at('card', files[0]),
        development: { multipliers: [2, 1, 1.515], headroom: 1 },
        captures: sensorPlaces(captures).map(([x, y], c) => ({ file: at('card', files[c]), x_px: x / 2, y_px: y / 2 })),
      },
    })),
    settings: { style: 'auto', bits: 16, crop: 'common', register: true, localWarp: 'whereMoved' },
    outputs: { out: at(`${count}.tif`), report: at(`${count}.json`) },
  }
  writeFileSync(at('job.json'), JSON.stringify(job))
  const started = Date.now()
  const peak_MB = nitidus('run', at('job.json'))
  const report = JSON.parse(readFileSync(at(`${count}.json`), 'utf8')) as FuseReport
  const merged = report.frames.filter((frame) => frame.captures?.used === captures).length
  console.log(
    `${count} frames of ${captures}: ${((Date.now() - started) / 1000).toFixed(0)} s, ${peak_MB.toFixed(0)} MB; merged ${merged}, ${report.crop.width} × ${report.crop.height} px`,
  )
}
rmSync(folder, { recursive: true, force: true })
