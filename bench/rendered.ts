import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { STYLES } from '@/core/fuse'
import { cornerDistance_px, type Similarity } from '@/core/raster'
import { command, score, textbook, type Score } from './scoring'

/**
 * Series that were ray-traced elsewhere, with the view with everything sharp and a `scene.json` that says how the camera
 * stood: every style beside the textbook pipeline in the same run, and registration. `npm run bench:rendered -- TOOLS
 * STACKS`, where STACKS holds a folder for each series with `frames`, `truth` and `scene.json`.
 */
const [tools, stacks] = process.argv.slice(2)
if (!tools || !stacks) throw new Error('Say where score.py and textbook_fuse.py are, and where the series are.')

/** How a frame was taken: focus distance and shift in mm, field of view across and roll in degrees. */
interface Setting {
  FOC: number
  ANG: number
  JX: number
  JY: number
  ROLL: number
}

/** Motions from frame `reference` to each, of what it is focused on, seen from where the reference stood. */
function motionsOf(settings: Setting[], reference: number, width: number): Similarity[] {
  const perTangent = ({ ANG }: Setting) => width / 2 / Math.tan((ANG * Math.PI) / 360)
  const here = settings[reference]
  return settings.map((there) => {
    const scale = perTangent(there) / perTangent(here)
    const rotation_rad = ((there.ROLL - here.ROLL) * Math.PI) / 180
    // A camera that goes to the right sees everything farther to the left, and one that rises sees it lower.
    const shift = perTangent(there) / there.FOC
    return { scale, rotation_rad, dx_px: -shift * (there.JX - here.JX), dy_px: shift * (there.JY - here.JY) }
  })
}

interface Report {
  reference: string
  frames: (Similarity & { file: string; rotation_deg: number })[]
  crop: { width: number; height: number }
}

/** Root mean square distance of the corners from the truth, as it is, and beside a shift that goes evenly with the focus. */
function registrationOf(report: Report, settings: Setting[], width: number, height: number) {
  const reference = report.frames.findIndex(({ file }) => file === report.reference)
  const found = report.frames.map(({ rotation_deg, ...motion }) => ({ ...motion, rotation_rad: (rotation_deg * Math.PI) / 180 }))
  const real = motionsOf(settings, reference, width)
  const rms = (motions: Similarity[]) =>
    Math.sqrt(motions.reduce((sum, motion, k) => sum + cornerDistance_px(motion, real[k], width, height) ** 2, 0) / motions.length)
  const drift = (['dx_px', 'dy_px'] as const).map((axis) => {
    const [up, down] = found.reduce(([a, b], motion, k) => [a + (k - reference) * (motion[axis] - real[k][axis]), b + (k - reference) ** 2], [0, 0])
    return up / down
  })
  const without = found.map((motion, k) => ({
    ...motion,
    dx_px: motion.dx_px - drift[0] * (k - reference),
    dy_px: motion.dy_px - drift[1] * (k - reference),
  }))
  return { rms_px: rms(found), drift_px: drift, beside_px: rms(without) }
}

const cell = ({ psnr_dB, ssim, psnr_p5_dB }: Score) => `${psnr_dB.toFixed(2)} / ${ssim.toFixed(3)} / ${psnr_p5_dB.toFixed(2)}`
const folder = path.resolve('dist/bench-rendered')
mkdirSync(folder, { recursive: true })
for (const name of readdirSync(stacks).filter((each) => existsSync(path.join(stacks, each, 'scene.json')))) {
  const [frames, truth] = ['frames', 'truth'].map((part) => path.join(stacks, name, part))
  const settings = JSON.parse(readFileSync(path.join(stacks, name, 'scene.json'), 'utf8')) as Setting[]
  const at = (file: string) => path.join(folder, `${name}-${file}`)
  if (textbook(tools, frames, at('textbook.png'))) console.log(`${name} textbook  ${cell(score(tools, at('textbook.png'), truth))}`)
  for (const style of Object.keys(STYLES)) {
    command('fuse', frames, '--out', at(`${style}.png`), '--style', style, '--report', at('report.json'))
    console.log(`${name} ${style.padEnd(9)} ${cell(score(tools, at(`${style}.png`), truth))}`)
  }
  const { rms_px, drift_px, beside_px } = registrationOf(JSON.parse(readFileSync(at('report.json'), 'utf8')) as Report, settings, 720, 480)
  console.log(
    `${name} registration ${rms_px.toFixed(3)} px at the corners; ${beside_px.toFixed(3)} px beside ` +
      `${drift_px.map((px) => px.toFixed(3)).join(', ')} px a frame, by which its blur is off the axis (docs/engine.md)`,
  )
}
