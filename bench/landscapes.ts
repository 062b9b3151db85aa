import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { landscape, type LandscapeRequest } from '@/core/simulate'
import { landscapeRow, landscapeTable } from './landscapeRow'
import { command } from './scoring'

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

const rows: string[] = []
for (const series of SERIES.filter(({ name }) => !only || only.split(',').includes(name))) {
  const shots = shot(series)
  rows.push(await landscapeRow(tools, { what: series.what, shots, truth: path.join(shots, 'truth'), at: (name) => at(`${series.name}-${name}`) }))
  console.log(rows.at(-1))
}
if (!only) {
  writeFileSync(
    'docs/landscapes.md',
    `# Landscapes

Made by \`npm run bench:landscapes -- TOOLS\`, where TOOLS is a folder with the textbook pipeline and the score. Simulated series of 720 × 480 px, 24 mm on 36 mm, slices
alike in dioptres. The whole picture: the score against the nearest moment, PSNR in dB / of the worst twentieth of the tiles. What stands still: the same, against the view with everything sharp, and beside it the
best frame of every window of 9 px, chosen by peeking at the truth. What moved: PSNR in dB of each part against the nearest true moment, and that of
the single frame that is best there. *Blended*: \`--moving blend\`, *one moment*: as it is without a word. *Parts*: how many were shown from one
frame; in still series none may be.

${landscapeTable(rows)}`,
  )
}
