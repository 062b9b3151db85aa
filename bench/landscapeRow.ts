import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { luma, warpPicture, type Picture, type Rectangle, type Similarity } from '@/core/raster'
import type { Moving } from '@/core/moving'
import type { FuseReport } from '@/schemas'
import { command, score, textbook } from './scoring'
import { cutOut, errorsOf, fitted, movedRegions, oracle, psnr_dB, readPicture, worstTiles_dB } from './regions'

/** A landscape with its true moments. */
export interface Shot {
  what: string
  /** The folder of its frames, and that of its moments as the reference frame sees them. */
  shots: string
  truth: string
  /** Where what is made of it is kept, by name. */
  at: (name: string) => string
  /** What is asked of the command beside. */
  options?: string[]
}

interface Measured {
  still_dB: number
  worst_dB: number
  moved_dB: number[]
  crop: Rectangle
  parts: number
}

async function fuse({ shots, at, options = [] }: Shot, moving: Moving, moments: Picture[]): Promise<{ measured: Measured; report: FuseReport }> {
  const [out, said] = [at(`${moving}.png`), at(`${moving}.json`)]
  command('fuse', shots, '--out', out, '--report', said, '--moving', moving, ...options)
  const report = JSON.parse(readFileSync(said, 'utf8')) as FuseReport
  return { measured: measure(await readPicture(out), moments, report.crop, report.parts?.length ?? 0), report }
}

/** A fused picture against the moments; it is fitted to their light first. */
function measure(picture: Picture, moments: Picture[], crop: Rectangle, parts: number): Measured {
  const truths = moments.map((moment) => cutOut(moment, crop))
  const { regions, still } = regionsIn(moments, crop)
  const own = fitted(picture, truths[0], still)
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
  const { regions, still } = regionsIn(moments, crop)
  const own = frames.map((frame) => fitted(cutOut(frame, crop), truths[0], still))
  const singles = own.map((frame, k) => errorsOf(frame, truths[Math.min(k, truths.length - 1)]))
  return { oracle: oracle(own, truths[0]), singles_dB: regions.map((region) => Math.max(...singles.map((error) => psnr_dB(error, region)))) }
}

const numbers = (values: number[]) => (values.length === 0 ? '–' : values.map((value) => value.toFixed(1)).join(', '))
const pair = ({ still_dB, worst_dB }: Pick<Measured, 'still_dB' | 'worst_dB'>) => `${still_dB.toFixed(2)} / ${worst_dB.toFixed(2)}`

/** The whole picture, as the score sees it: brought to the nearest moment first. */
function whole(tools: string, picture: string, truth: string): string {
  const { psnr_dB, psnr_p5_dB } = score(tools, picture, truth)
  return `${psnr_dB.toFixed(2)} / ${psnr_p5_dB.toFixed(2)}`
}

const TITLES = [
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

/** What a landscape comes to, one cell a title. */
export async function landscapeRow(tools: string, shot: Shot): Promise<string> {
  const { what, shots, truth, at } = shot
  const moments = await Promise.all(
    readdirSync(truth)
      .filter((file) => file.startsWith('truth_'))
      .sort()
      .map((file) => readPicture(path.join(truth, file))),
  )
  const [one, blend] = [await fuse(shot, 'auto', moments), await fuse(shot, 'blend', moments)]
  const registered = await Promise.all(
    one.report.frames.map(async ({ file, scale, rotation_deg, dx_px, dy_px }) => {
      const motion: Similarity = { scale, rotation_rad: (rotation_deg * Math.PI) / 180, dx_px, dy_px }
      return warpPicture(await readPicture(path.join(shots, file)), motion)
    }),
  )
  const { oracle: best, singles_dB } = bestOfFrames(registered, moments, one.measured.crop)
  const book = textbook(tools, shots, at('textbook.png')) ? whole(tools, at('textbook.png'), truth) : '–'
  const cells = [
    what,
    book,
    whole(tools, at('blend.png'), truth),
    whole(tools, at('auto.png'), truth),
    pair(measure(best, moments, one.measured.crop, 0)),
    pair(blend.measured),
    pair(one.measured),
    numbers(singles_dB),
    numbers(blend.measured.moved_dB),
    numbers(one.measured.moved_dB),
    String(one.measured.parts),
  ]
  return `| ${cells.join(' | ')} |`
}

export const landscapeTable = (rows: string[]) => `| ${TITLES.join(' | ')} |\n|${' --- |'.repeat(TITLES.length)}\n${rows.join('\n')}\n`
