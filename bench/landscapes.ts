import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { luma, warpPicture, type Picture, type Rectangle, type Similarity } from '@/core/raster'
import { landscape, type LandscapeRequest } from '@/core/simulate'
import type { Moving } from '@/core/moving'
import type { FuseReport } from '@/schemas'
import { command, score, textbook } from './scoring'
import { cutOut, errorsOf, fitted, movedRegions, oracle, psnr_dB, readPicture, worstTiles_dB } from './regions'

/**
 * Landscapes: the garden and the meadow, still and in three winds, with a camera that is pushed aside between frames. What stands still is
 * measured against the view with everything sharp, beside the best frame of every 9 px window; what moved against the nearest true moment,
 * beside the best single frame. `npm run bench:landscapes -- TOOLS [names]`; with all series the table goes to docs/landscapes.md.
 */
const [tools, only] = process.argv.slice(2)
if (!tools) throw new Error('Say where score.py and textbook_fuse.py are.')
const folder = path.resolve('dist/bench-landscapes')

interface Series extends Omit<LandscapeRequest, 'width_px'> {
  name: string
  what: string
}

const meadow = { scene: 'meadow', seed: 3, frames: 6, near_mm: 600, fNumber: 1.4, wind: 0, aside_mm: 0.3 } as const
const garden = { scene: 'garden', seed: 3, frames: 6, near_mm: 600, fNumber: 1.4, wind: 0, aside_mm: 0.4 } as const
const SERIES: Series[] = [
  { ...meadow, name: 'meadow-still', what: 'meadow, still, pushed by 0.3 mm' },
  { ...meadow, name: 'meadow-pushed', what: 'meadow, still, pushed by 2 mm', aside_mm: 2, seed: 4 },
  { ...garden, name: 'garden-still', what: 'garden, still, pushed by 0.4 mm' },
  { ...garden, name: 'garden-pushed', what: 'garden, still, 8 frames from 0.45 m, pushed by 2 mm', frames: 8, near_mm: 450, aside_mm: 2, seed: 4 },
  { ...garden, name: 'garden-three', what: 'garden, still, 3 frames from 1.5 m, thin overlaps', frames: 3, near_mm: 1500, aside_mm: 0.2, seed: 7 },
  { ...garden, name: 'garden-thick', what: 'garden, still, 6 frames at f/4, thick overlaps', fNumber: 4, seed: 8 },
  { ...meadow, name: 'meadow-light', what: 'meadow in a light breeze', wind: 0.5, seed: 8 },
  { ...meadow, name: 'meadow-breeze', what: 'meadow in a breeze', wind: 1 },
  {
    ...meadow,
    name: 'meadow-wind',
    what: 'meadow in a wind, 5 frames from 0.5 m, pushed by 1 mm',
    wind: 2,
    frames: 5,
    near_mm: 500,
    fNumber: 2,
    aside_mm: 1,
    seed: 9,
  },
  { ...garden, name: 'garden-light', what: 'garden in a light breeze, water', wind: 0.5, frames: 7, near_mm: 400, seed: 11 },
  {
    ...garden,
    name: 'garden-breeze',
    what: 'garden in a breeze, water, pushed by 1 mm',
    wind: 1,
    frames: 5,
    near_mm: 700,
    fNumber: 2,
    aside_mm: 1,
    seed: 5,
  },
  { ...garden, name: 'garden-wind', what: 'garden in a wind, water', wind: 2, aside_mm: 0.2, seed: 12 },
]

const at = (name: string) => path.join(folder, name)

function shot({ name, what: _, ...request }: Series): string {
  if (!existsSync(path.join(at(name), 'truth.json'))) {
    mkdirSync(at(name), { recursive: true })
    writeFileSync(at(`${name}.json`), JSON.stringify(landscape({ ...request, width_px: 720 })))
    command('simulate', at(`${name}.json`), '--out', at(name), '--truth')
  }
  return at(name)
}

interface Measured {
  still_dB: number
  worst_dB: number
  moved_dB: number[]
  crop: Rectangle
  parts: number
}

async function fuse(name: string, moving: Moving, moments: Picture[]): Promise<{ measured: Measured; report: FuseReport }> {
  const [out, said] = [at(`${name}-${moving}.png`), at(`${name}-${moving}.json`)]
  command('fuse', at(name), '--out', out, '--report', said, '--moving', moving)
  const report = JSON.parse(readFileSync(said, 'utf8')) as FuseReport
  return { measured: measure(await readPicture(out), moments, report.crop, report.parts?.length ?? 0), report }
}

/** A fused picture against the moments; it is fitted to their light first. */
function measure(picture: Picture, moments: Picture[], crop: Rectangle, parts: number): Measured {
  const truths = moments.map((moment) => cutOut(moment, crop))
  const own = fitted(picture, truths[0])
  const { regions, still } = regionsIn(moments, crop)
  const errors = truths.map((truth) => errorsOf(own, truth))
  return {
    still_dB: psnr_dB(errors[0], still),
    worst_dB: worstTiles_dB(errors[0], still, crop),
    moved_dB: regions.map((region) => Math.max(...errors.map((error) => psnr_dB(error, region)))),
    crop,
    parts,
  }
}

const regionsIn = (moments: Picture[], crop: Rectangle) => movedRegions(moments.map(luma), crop)

/** The best frame of each window, and for each part that moved the best single frame, at its own moment. */
function bestOfFrames(frames: Picture[], moments: Picture[], crop: Rectangle): { oracle: Picture; singles_dB: number[] } {
  const truths = moments.map((moment) => cutOut(moment, crop))
  const own = frames.map((frame) => fitted(cutOut(frame, crop), truths[0]))
  const { regions } = regionsIn(moments, crop)
  const singles = own.map((frame, k) => errorsOf(frame, truths[Math.min(k, truths.length - 1)]))
  return { oracle: oracle(own, truths[0]), singles_dB: regions.map((region) => Math.max(...singles.map((error) => psnr_dB(error, region)))) }
}

const numbers = (values: number[]) => (values.length === 0 ? '–' : values.map((value) => value.toFixed(1)).join(', '))
const pair = ({ still_dB, worst_dB }: Pick<Measured, 'still_dB' | 'worst_dB'>) => `${still_dB.toFixed(2)} / ${worst_dB.toFixed(2)}`

/** The whole picture, as the score sees it: brought to the nearest moment first. */
function whole(picture: string, truth: string): string {
  const { psnr_dB, psnr_p5_dB } = score(tools, picture, truth)
  return `${psnr_dB.toFixed(2)} / ${psnr_p5_dB.toFixed(2)}`
}

const rows: string[] = []
for (const series of SERIES.filter(({ name }) => !only || only.split(',').includes(name))) {
  const shots = shot(series)
  const truth = path.join(shots, 'truth')
  const moments = await Promise.all(
    readdirSync(truth)
      .filter((file) => file.startsWith('truth_'))
      .sort()
      .map((file) => readPicture(path.join(truth, file))),
  )
  const [one, blend] = [await fuse(series.name, 'auto', moments), await fuse(series.name, 'blend', moments)]
  const registered = await Promise.all(
    one.report.frames.map(async ({ file, scale, rotation_deg, dx_px, dy_px }) => {
      const motion: Similarity = { scale, rotation_rad: (rotation_deg * Math.PI) / 180, dx_px, dy_px }
      return warpPicture(await readPicture(path.join(shots, file)), motion)
    }),
  )
  const { oracle: best, singles_dB } = bestOfFrames(registered, moments, one.measured.crop)
  const book = textbook(tools, shots, at(`${series.name}-textbook.png`)) ? whole(at(`${series.name}-textbook.png`), truth) : '–'
  const cells = [
    series.what,
    book,
    whole(at(`${series.name}-blend.png`), truth),
    whole(at(`${series.name}-auto.png`), truth),
    pair(measure(best, moments, one.measured.crop, 0)),
    pair(blend.measured),
    pair(one.measured),
    numbers(singles_dB),
    numbers(blend.measured.moved_dB),
    numbers(one.measured.moved_dB),
    String(one.measured.parts),
  ]
  rows.push(`| ${cells.join(' | ')} |`)
  console.log(rows.at(-1))
}
if (!only) {
  const titles = [
    'series',
    'whole: textbook',
    'blended',
    'one moment',
    'still: best windows',
    'blended',
    'one moment',
    'moved: best single frame',
    'blended',
    'one moment',
    'parts',
  ]
  writeFileSync(
    'docs/landscapes.md',
    `# Landscapes

Made by \`npm run bench:landscapes -- TOOLS\`, where TOOLS is a folder with the textbook pipeline and the score. Simulated series of 720 × 480 px, 24 mm on 36 mm, slices
alike in dioptres. The whole picture: the score against the nearest moment, PSNR in dB / of the worst twentieth of the tiles. What stands still: the same, against the view with everything sharp, and beside it the
best frame of every window of 9 px, chosen by peeking at the truth. What moved: PSNR in dB of each part against the nearest true moment, and that of
the single frame that is best there. *Blended*: \`--moving blend\`, *one moment*: as it is without a word. *Parts*: how many were shown from one
frame; in still series none may be.

| ${titles.join(' | ')} |
|${' --- |'.repeat(titles.length)}
${rows.join('\n')}
`,
  )
}
