import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { decoded, encoded } from '@/core/raster'
import { gaussian, randomStream } from '@/core/simulate'
import { landscapeRow, landscapeTable } from './landscapeRow'

/**
 * A landscape that Debian's ray tracer photographs (`povray`), so that not everything is judged by our own simulator: leaves of a shrub and blades
 * in front sway, the camera is pushed aside and breathes. What is measured is what `bench:landscapes` measures.
 * `npm run bench:traced -- TOOLS [names]`; a series takes five to ten minutes the first time, and is kept. With all series the table goes to
 * docs/traced.md.
 */
const [tools, only] = process.argv.slice(2)
if (!tools) throw new Error('Say where score.py and textbook_fuse.py are.')
const folder = path.resolve('dist/bench-traced')
const SCENE = path.resolve('bench/traced/landscape.pov')

const [WIDTH_px, HEIGHT_px] = [720, 480]
const [SENSOR_mm, FOCAL_mm] = [36, 24]
/** Electrons in white, and of reading. */
const [FULL, READ] = [15_000, 4]

interface Series {
  name: string
  what: string
  frames: number
  near_m: number
  fNumber: number
  aside_mm: number
  wind: number
  seed: number
}

const usual = { frames: 6, near_m: 0.5, fNumber: 2, aside_mm: 0.5, wind: 0, seed: 1 }
const SERIES: Series[] = [
  { ...usual, name: 'still', what: 'still, 6 frames from 0.5 m, pushed by 0.5 mm' },
  { ...usual, name: 'near', what: 'still, 8 frames from 0.35 m, pushed by 1 mm', frames: 8, near_m: 0.35, aside_mm: 1, seed: 2 },
  { ...usual, name: 'breeze', what: 'in a breeze, 6 frames from 0.5 m, pushed by 0.5 mm', wind: 0.5, seed: 3 },
  { ...usual, name: 'wind', what: 'in a wind, 5 frames from 0.6 m, pushed by 1 mm', frames: 5, near_m: 0.6, aside_mm: 1, wind: 1, seed: 4 },
]

/** Traces the scene; what is declared names what landscape.pov asks for. */
function trace(out: string, declared: Record<string, number>, settings: string[]): void {
  const declares = Object.entries(declared).map(([name, value]) => `Declare=${name}=${value.toFixed(6)}`)
  const asked = [`+I${SCENE}`, `+O${out}`, `+W${WIDTH_px}`, `+H${HEIGHT_px}`, '-D', 'File_Gamma=srgb', ...settings, ...declares]
  execFileSync('povray', asked, { stdio: ['ignore', 'ignore', 'pipe'] })
}

/** A traced picture as a camera hands it in: photons are counted, and a JPEG is made. */
async function develop(traced: string, out: string, exposure: number, seed: number): Promise<void> {
  const { data, info } = await sharp(traced).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const random = randomStream(seed)
  for (let i = 0; i < data.length; i++) {
    const electrons = decoded(data[i] / 255) * FULL * exposure
    data[i] = Math.round(255 * Math.min(1, encoded(Math.max(0, electrons + Math.sqrt(electrons + READ ** 2) * gaussian(random)) / FULL)))
  }
  await sharp(data, { raw: { width: info.width, height: info.height, channels: 3 } })
    .jpeg({ quality: 94, chromaSubsampling: '4:4:4' })
    .toFile(out)
}

/** The reference is the middle frame: it stands where the moments are seen from. */
const referenceOf = ({ frames }: Series) => Math.floor(frames / 2)

async function shot(series: Series): Promise<{ shots: string; truth: string }> {
  const { name, frames, near_m, fNumber, aside_mm, wind, seed } = series
  const [shots, truth] = ['frames', 'truth'].map((part) => path.join(folder, name, part))
  if (existsSync(path.join(folder, name, 'done'))) return { shots, truth }
  for (const each of [shots, truth]) mkdirSync(each, { recursive: true })
  const random = randomStream(seed)
  const around = () => 2 * random() - 1
  const distances_m = Array.from({ length: frames }, (_, k) => 1 / ((1 / near_m) * (1 - k / (frames - 1)) + (1 / 60) * (k / (frames - 1))))
  const angles_deg = distances_m.map((distance_m) => {
    const image_mm = (FOCAL_mm * distance_m) / (distance_m - FOCAL_mm / 1000)
    return (360 / Math.PI) * Math.atan(SENSOR_mm / 2 / image_mm)
  })
  const reference = referenceOf(series)
  for (let k = 0; k < frames; k++) {
    const here = k === reference
    const stand = here ? { JX: 0, JY: 0, ROLL: 0 } : { JX: (around() * aside_mm) / 1000, JY: (around() * aside_mm) / 1000, ROLL: 0.1 * around() }
    const scene = { NEAR: near_m, FOC: distances_m[k], WIND: wind, T: k, SAMPLES: 120 }
    const traced = path.join(folder, name, 'traced.png')
    trace(traced, { ...scene, ...stand, ANG: angles_deg[k], APERTURE: FOCAL_mm / fNumber / 1000 }, [])
    await develop(traced, path.join(shots, `frame_${String(k + 1).padStart(3, '0')}.jpg`), here ? 1 : 2 ** (0.06 * around()), seed * 100 + k)
    // Without wind every moment is the same one.
    if (wind === 0 && k > 0) continue
    const moment = path.join(truth, `truth_${String(k).padStart(2, '0')}.png`)
    trace(moment, { ...scene, JX: 0, JY: 0, ROLL: 0, ANG: angles_deg[reference], APERTURE: 0 }, ['+A0.05', '+AM2', '+R3'])
  }
  writeFileSync(path.join(folder, name, 'done'), '')
  return { shots, truth }
}

const rows: string[] = []
for (const series of SERIES.filter(({ name }) => !only || only.split(',').includes(name))) {
  const at = (name: string) => path.join(folder, `${series.name}-${name}`)
  const options = ['--reference', String(referenceOf(series) + 1)]
  rows.push(await landscapeRow(tools, { what: series.what, ...(await shot(series)), at, options }))
  console.log(rows.at(-1))
}
if (!only) {
  writeFileSync(
    'docs/traced.md',
    `# A traced landscape

Made by \`npm run bench:traced -- TOOLS\`, where TOOLS is a folder with the textbook pipeline and the score. A scene for this purpose (bench/traced/landscape.pov),
photographed by a ray tracer with 720 × 480 px, 24 mm on 36 mm at f/2, photon noise and JPEGs of quality 94, slices alike in dioptres. The columns are those of
[landscapes](landscapes.md).

${landscapeTable(rows)}`,
  )
}
