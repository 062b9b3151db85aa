import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { STYLES } from '@/core/fuse'
import { command, registrationOf, score, textbook, type RegistrationScore, type Score } from './scoring'

/**
 * How good fused pictures are, on simulated series of subjects that want different things: every style, registration and
 * depth against the truth, beside the textbook pipeline in the same run. `npm run bench:quality -- TOOLS [bristles,…]`,
 * where TOOLS holds `score.py` and `textbook_fuse.py`; with all series the table goes to docs/quality.md.
 */
const [tools, only] = process.argv.slice(2)
if (!tools) throw new Error('Say where score.py and textbook_fuse.py are.')
const folder = path.resolve('dist/bench-quality')

interface Subject {
  name: string
  what: string
  scene: string
  /** First and last plane of focus, and how many; by distance where the garden is meant. */
  planes: [number, number, number]
  camera: Record<string, unknown>
  more?: Record<string, unknown>
  /** Options for the command beside the style. */
  flags?: string[]
  /** The series is that of another subject. */
  seriesOf?: string
}

const ring = { mover: 'ring', fNumber: 5.6 }
const rail = { mover: 'rail', fNumber: 5.6 }
const SUBJECTS: Subject[] = [
  { name: 'bristles', what: 'bristles over texture, by ring', scene: 'bristles', planes: [-1, 8.5, 14], camera: { ...ring, fNumber: 4 } },
  {
    name: 'bristles-rail',
    what: 'the same on a rail, bumped by 3 % of the width',
    scene: 'bristles',
    planes: [-1, 8.5, 14],
    camera: { ...rail, fNumber: 4 },
    more: { seed: 6, faults: [{ kind: 'bump', frame: 8, shift_percent: 3 }] },
  },
  { name: 'fossil-rail', what: 'relief on a rail', scene: 'fossil', planes: [-0.8, 10, 13], camera: rail },
  {
    name: 'fossil-dark',
    what: 'little light: a fifteenth of the photons',
    scene: 'fossil',
    planes: [-0.8, 10, 13],
    camera: ring,
    more: { fullWell: 2000 },
  },
  {
    name: 'fossil-gap',
    what: 'one frame missing',
    scene: 'fossil',
    planes: [-0.8, 10, 13],
    camera: ring,
    more: { faults: [{ kind: 'skippedStep', frame: 7 }] },
  },
  {
    name: 'fossil-pushed',
    what: 'the camera pushed aside by 3 % of the width',
    scene: 'fossil',
    planes: [-0.8, 10, 13],
    camera: ring,
    more: { faults: [{ kind: 'bump', frame: 5, shift_percent: 3, pushed: true }] },
  },
  { name: 'nib', what: 'polished metal, by ring', scene: 'nib', planes: [-2, 38, 15], camera: { ...ring, magnification: 0.5 } },
  { name: 'nib-rail', what: 'the same on a rail: strong perspective', scene: 'nib', planes: [-2, 38, 15], camera: { ...rail, magnification: 0.5 } },
  { name: 'bowl', what: 'smooth glaze with highlights', scene: 'bowl', planes: [-0.5, 9.5, 13], camera: ring },
  { name: 'wing', what: 'clear wings over print', scene: 'wing', planes: [-0.5, 7.5, 11], camera: ring },
  ...inBreeze('bristles-breeze', 'bristles in a breeze', { scene: 'bristles', planes: [-1, 8.5, 14], camera: { ...ring, fNumber: 4 } }),
  ...inBreeze('wing-breeze', 'clear wings in a breeze', { scene: 'wing', planes: [-0.5, 7.5, 11], camera: ring }),
]

/** A series whose parts lie elsewhere in every frame, fused with moved parts followed, as is usual, and as it is. */
function inBreeze(name: string, what: string, rest: Pick<Subject, 'scene' | 'planes' | 'camera'>): Subject[] {
  const subject = { ...rest, name, what, more: { seed: 4, breeze_mm: 0.12 } }
  return [
    subject,
    { ...subject, name: `${name}-as-is`, what: 'the same, moved parts not followed', flags: ['--local-warp', 'never'], seriesOf: name },
  ]
}

interface Result {
  subject: Subject
  textbook?: Score
  styles: Record<string, Score>
  registration: RegistrationScore
  depth: DepthScore
}

/** Shares of the textured pixels whose depth is within half a slice, in percent. */
interface DepthScore {
  all_percent: number
  /** Of those beside which depth does not jump: what is textured on both sides of an edge has two depths. */
  awayFromSteps_percent: number
  /** Of those that the engine calls sure of, and how many of all those are. */
  sure_percent: number
  sureShare_percent: number
}

/** From this confidence on a depth is called sure, of 255. */
const SURE = 128

/** A step is one of more than a slice within so many px. */
const BESIDE_px = 3

async function measure(subject: Subject): Promise<Result> {
  const series = path.join(folder, subject.seriesOf ?? subject.name)
  const truth = path.join(series, 'truth')
  const [first, last, count] = subject.planes
  if (!existsSync(path.join(series, 'truth.json'))) {
    mkdirSync(series, { recursive: true })
    const request = {
      scene: subject.scene,
      seed: 3,
      camera: { width_px: 720, height_px: 480, ...subject.camera },
      positions_mm: Array.from({ length: count }, (_, k) => first + (k / (count - 1)) * (last - first)),
      unsteadiness: { shift_px: 1, rotation_deg: 0.06, exposure_ev: 0.04 },
      ...subject.more,
    }
    const scene = path.join(folder, `${subject.name}.json`)
    writeFileSync(scene, JSON.stringify(request))
    command('simulate', scene, '--out', series, '--truth')
  }
  const out = (name: string) => path.join(folder, `${subject.name}-${name}`)
  const compared = textbook(tools, series, out('textbook.png'))
  const styles: Record<string, Score> = {}
  for (const style of Object.keys(STYLES)) {
    const more = style === 'auto' ? ['--report', out('report.json'), '--depth', out('depth.png'), '--confidence', out('confidence.png')] : []
    command('fuse', series, '--out', out(`${style}.png`), '--style', style, ...(subject.flags ?? []), ...more)
    styles[style] = score(tools, out(`${style}.png`), truth)
  }
  return {
    subject,
    ...(compared && { textbook: score(tools, out('textbook.png'), truth) }),
    styles,
    registration: registrationOf(out('report.json'), path.join(series, 'truth.json')),
    depth: await depthOf(subject, out, series),
  }
}

async function depthOf({ planes: [, , count] }: Subject, out: (name: string) => string, series: string): Promise<DepthScore> {
  const { crop } = JSON.parse(readFileSync(out('report.json'), 'utf8')) as { crop: { x: number; y: number; width: number; height: number } }
  const { depthRange_mm, frames } = JSON.parse(readFileSync(path.join(series, 'truth.json'), 'utf8')) as {
    depthRange_mm: [number, number]
    frames: { position_mm: number }[]
  }
  const area = { left: crop.x, top: crop.y, width: crop.width, height: crop.height }
  const grey = async (file: string, cut: boolean) => {
    const whole = cut ? sharp(file).extract(area) : sharp(file)
    const data = await whole.toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer()
    return new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
  }
  const [found, real] = [await grey(out('depth.png'), false), await grey(path.join(series, 'truth', 'depth_00.png'), true)]
  const sure = await sharp(out('confidence.png')).toColourspace('b-w').raw().toBuffer()
  const picture = await sharp(path.join(series, 'truth', 'truth_00.png'))
    .extract(area)
    .greyscale()
    .raw()
    .toBuffer()
  const { width, height } = crop
  const places = Float64Array.from(real, (value) => placeOf(depthRange_mm[0] + (value / 65535) * (depthRange_mm[1] - depthRange_mm[0]), frames))
  const stepped = (x: number, y: number) => {
    let [near, far] = [Infinity, -Infinity]
    for (let row = y - BESIDE_px; row <= y + BESIDE_px; row++) {
      for (let column = x - BESIDE_px; column <= x + BESIDE_px; column++) {
        near = Math.min(near, places[row * width + column])
        far = Math.max(far, places[row * width + column])
      }
    }
    return far - near > 1
  }
  const counts = { all: 0, right: 0, away: 0, rightAway: 0, sure: 0, rightSure: 0 }
  for (let y = 4; y < height - 4; y++) {
    for (let x = 4; x < width - 4; x++) {
      const i = y * width + x
      if (Math.hypot(picture[i + 1] - picture[i - 1], picture[i + width] - picture[i - width]) < 24) continue
      const right = Math.abs(places[i] - (found[i] / 65535) * (count - 1)) <= 0.5 ? 1 : 0
      counts.all++
      counts.right += right
      if (sure[i] >= SURE) {
        counts.sure++
        counts.rightSure += right
      }
      if (stepped(x, y)) continue
      counts.away++
      counts.rightAway += right
    }
  }
  const percent = (part: number, of: number) => (100 * part) / Math.max(1, of)
  return {
    all_percent: percent(counts.right, counts.all),
    awayFromSteps_percent: percent(counts.rightAway, counts.away),
    sure_percent: percent(counts.rightSure, counts.sure),
    sureShare_percent: percent(counts.sure, counts.all),
  }
}

/** Where between the frames a depth is sharpest. */
function placeOf(z: number, frames: { position_mm: number }[]): number {
  const k = Math.min(
    frames.length - 2,
    Math.max(
      0,
      frames.findLastIndex(({ position_mm }) => position_mm <= z),
    ),
  )
  return k + Math.min(1, Math.max(0, (z - frames[k].position_mm) / (frames[k + 1].position_mm - frames[k].position_mm)))
}

const results: Result[] = []
const cell = (s?: Score) => (s ? `${s.psnr_dB.toFixed(2)} / ${s.ssim.toFixed(3)} / ${s.psnr_p5_dB.toFixed(2)}` : '–')
const row = ({ subject, textbook, styles, registration, depth }: Result) =>
  `| ${subject.what} | ${[cell(textbook), ...Object.values(styles).map(cell), `${registration.all_px.toFixed(2)} px`, `${registration.onSubject_px.toFixed(2)} px`, `${depth.all_percent.toFixed(0)} %`, `${depth.awayFromSteps_percent.toFixed(0)} %`, `${depth.sure_percent.toFixed(0)} % of ${depth.sureShare_percent.toFixed(0)} %`].join(' | ')} |`
mkdirSync(folder, { recursive: true })
for (const subject of SUBJECTS) {
  if (only && !only.split(',').includes(subject.name)) continue
  results.push(await measure(subject))
  console.log(row(results.at(-1)!))
}
if (!only) {
  const titles = ['series', 'textbook', ...Object.keys(STYLES), 'registration', 'on the subject', 'depth', 'away from steps', 'where sure']
  const head = `| ${titles.join(' | ')} |\n|${' --- |'.repeat(titles.length)}`
  const text = `# Quality

Made by \`npm run bench:quality -- TOOLS\`, where TOOLS is a folder with the textbook pipeline and the score. Simulated series
of 720 × 480 px; each score is PSNR in dB / SSIM / PSNR of the worst twentieth of the tiles, against the view with everything
sharp. Registration is the root mean square distance of the corners from the truth, of all frames and of those focused on the
subject (the ends of a series are focused where nothing is, and a rail sees what there is at another scale than there); depth is the share of textured pixels
within half a slice, and of those farther than ${BESIDE_px} px from where depth jumps by more than a slice;
"where sure" is that share of those whose confidence is above a half, and how many of all they are.

${head}
${results.map(row).join('\n')}
`
  writeFileSync('docs/quality.md', text)
}
