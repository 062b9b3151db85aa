import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { randomStream } from '@/core/simulate'
import { command, registrationOf, score, textbook } from './scoring'

/**
 * Series that nobody chose: scene, mover, aperture, light, unsteadiness and one accident each at random, registered and fused,
 * beside the textbook pipeline. What the fixed series of `bench:quality` do not show, these have. `npm run bench:random --
 * TOOLS [how many] [first number]`; a number always gives the same series.
 */
const [tools, howMany = '20', first = '1'] = process.argv.slice(2)
if (!tools) throw new Error('Say where score.py and textbook_fuse.py are.')
const folder = path.resolve('dist/bench-random')

/** Scenes with their first and last plane of focus, and how they may be photographed. */
const SCENES = [
  { scene: 'bristles', planes: [-1, 8.5], fNumbers: [4, 5.6], magnification: 1 },
  { scene: 'fossil', planes: [-0.8, 10], fNumbers: [4, 5.6, 8], magnification: 1 },
  { scene: 'nib', planes: [-2, 38], fNumbers: [5.6, 8], magnification: 0.5 },
  { scene: 'bowl', planes: [-0.5, 9.5], fNumbers: [5.6, 8], magnification: 1 },
  { scene: 'wing', planes: [-0.5, 7.5], fNumbers: [4, 5.6], magnification: 1 },
] as const

function seriesOf(number: number) {
  const random = randomStream(number * 7919 + 17)
  const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]
  const { scene, planes, fNumbers, magnification } = one(SCENES)
  const [near, far] = planes
  const count = 9 + Math.floor(random() * 12)
  const frame = 3 + Math.floor(random() * (count - 5))
  const accident = one([
    undefined,
    { kind: 'bump', frame, shift_percent: 2 + 3 * random() },
    { kind: 'bump', frame, shift_percent: 1 + 3 * random(), pushed: true },
    { kind: 'skippedStep', frame },
    { kind: 'repeatedStep', frame },
    { kind: 'noFlash', frame, stops: 1.5 + 1.5 * random() },
    { kind: 'shake', frame, length_px: 8 },
    { kind: 'whiteBalance', frame, red_ev: 0.35, blue_ev: -0.4 },
  ])
  return {
    scene,
    seed: Math.floor(random() * 1000),
    camera: { width_px: 720, height_px: 480, mover: one(['ring', 'rail']), fNumber: one(fNumbers), magnification },
    positions_mm: Array.from({ length: count }, (_, k) => near + (k / (count - 1)) * (far - near)),
    unsteadiness: { shift_px: 2 * random(), rotation_deg: 0.1 * random(), exposure_ev: 0.06 * random() },
    fullWell: one([2000, 10_000, 30_000]),
    faults: accident ? [accident] : [],
  }
}

mkdirSync(folder, { recursive: true })
const rows: { all_px: number; onSubject_px: number; gain_dB?: number }[] = []
for (let number = Number(first); number < Number(first) + Number(howMany); number++) {
  const asked = seriesOf(number)
  const series = path.join(folder, String(number))
  const at = (name: string) => path.join(folder, `${number}-${name}`)
  if (!existsSync(path.join(series, 'truth.json'))) {
    mkdirSync(series, { recursive: true })
    writeFileSync(at('scene.json'), JSON.stringify(asked))
    command('simulate', at('scene.json'), '--out', series, '--truth')
  }
  const truth = path.join(series, 'truth')
  // Uncut, so that the score finds where the picture lies after any bump.
  command('fuse', series, '--out', at('auto.png'), '--report', at('report.json'), '--crop', 'none')
  const { all_px, onSubject_px } = registrationOf(at('report.json'), path.join(series, 'truth.json'))
  const auto = score(tools, at('auto.png'), truth).psnr_dB
  const other = textbook(tools, series, at('textbook.png')) ? score(tools, at('textbook.png'), truth).psnr_dB : undefined
  rows.push({ all_px, onSubject_px, ...(other !== undefined && { gain_dB: auto - other }) })
  const { scene, camera, positions_mm, fullWell, faults } = asked
  const accident = faults.map((fault) => fault.kind + ('pushed' in fault ? ', pushed' : '')).join() || 'none'
  const compared = other === undefined ? 'textbook none' : `textbook ${other.toFixed(2)}, ${(auto - other).toFixed(2)} dB more`
  console.log(
    `${number}: ${scene} by ${camera.mover}, f/${camera.fNumber}, ${positions_mm.length} frames, ${fullWell} photons, accident: ${accident}; ` +
      `registration ${all_px.toFixed(2)} px, on the subject ${onSubject_px.toFixed(2)}; auto ${auto.toFixed(2)}, ${compared}`,
  )
}
const summary = (of: (row: (typeof rows)[number]) => number) => {
  const sorted = rows.map(of).sort((a, b) => a - b)
  const near = sorted.filter((px) => px <= 0.1).length
  return `median ${sorted[sorted.length >> 1].toFixed(2)} px, most ${sorted.at(-1)!.toFixed(2)} px, within 0.1 px ${near} of ${sorted.length}`
}
const gains = rows.flatMap(({ gain_dB }) => (gain_dB === undefined ? [] : [gain_dB])).sort((a, b) => a - b)
console.log(
  `registration: ${summary((row) => row.all_px)}; on the subject: ${summary((row) => row.onSubject_px)}. ` +
    `Auto over the textbook: median ${gains[gains.length >> 1]?.toFixed(2)} dB, ` +
    `least ${gains[0]?.toFixed(2)} dB; below it ${gains.filter((gain) => gain < 0).length} of ${gains.length}`,
)
