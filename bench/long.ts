import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { command, registrationOf } from './scoring'

/**
 * Whether errors of registration add up along long series: 200 frames by ring, by rail, and with little light, and how far the
 * ends lie from the truth. `npm run bench:long -- [frames]`. Making a series takes minutes; it is kept in dist/bench-long.
 */
const count = Number(process.argv[2] ?? 200)
const folder = path.resolve('dist/bench-long')
const SERIES = [
  { name: 'ring', camera: { mover: 'ring' } },
  { name: 'rail', camera: { mover: 'rail' } },
  { name: 'dark', camera: { mover: 'ring' }, fullWell: 2000 },
]

mkdirSync(folder, { recursive: true })
for (const { name, camera, ...more } of SERIES) {
  const series = path.join(folder, `${name}-${count}`)
  if (!existsSync(path.join(series, 'truth.json'))) {
    mkdirSync(series, { recursive: true })
    const request = {
      scene: 'fossil',
      seed: 3,
      camera: { width_px: 480, height_px: 320, fNumber: 5.6, ...camera },
      positions_mm: Array.from({ length: count }, (_, k) => -0.8 + (10.8 * k) / (count - 1)),
      unsteadiness: { shift_px: 1, rotation_deg: 0.06, exposure_ev: 0.04 },
      ...more,
    }
    writeFileSync(`${series}.json`, JSON.stringify(request))
    command('simulate', `${series}.json`, '--out', series)
  }
  const report = `${series}-report.json`
  command('fuse', series, '--out', `${series}.png`, '--report', report)
  const { timings_s } = JSON.parse(readFileSync(report, 'utf8')) as { timings_s: Record<string, number> }
  const truth = path.join(series, 'truth.json')
  const of = (from: number, to: number) => registrationOf(report, truth, [480, 320], from, to).all_px.toFixed(3)
  console.log(
    `${name}: ${count} frames, registration ${of(0, count)} px at the corners; the first ten ${of(0, 10)}, the last ten ` +
      `${of(count - 10, count)}; registering ${((1000 * timings_s.register) / count).toFixed(0)} ms a frame`,
  )
}
