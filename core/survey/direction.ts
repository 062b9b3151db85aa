import { compose, invert, type Similarity } from '../raster'
import { prepare, registerPair } from '../register'
import { TILES, type FrameFacts } from './frameFacts'
import type { Profiles } from './order'
import { onTiles } from './steps'

/** A difference of scale between near and far parts below this, as a logarithm, is no perspective. */
const LEAST_PERSPECTIVE = 6e-4
/** And it must be more than a little of the whole change. */
const LEAST_SHARE = 0.04
const LEAST_BREATHING = 8e-4

export interface DirectionFinding {
  /** Whether the first frame of the order is focused nearest. */
  nearFirst: boolean
  by: 'perspective' | 'breathing' | 'names'
}

/**
 * Which end of an ordered series is near. A camera that moves changes the scale of near parts more than that of far
 * ones; one that stays and focuses farther away makes the whole picture smaller. Where neither shows, names decide.
 */
export function nearEndOf(frames: FrameFacts[], { tiles, rows }: Profiles, motions: Similarity[], names: number[]): DirectionFinding {
  const count = frames.length
  const total = Math.log(motions.at(-1)!.scale)
  const perspective = count >= 5 ? perspectiveOf(frames, { tiles, rows }, motions) : 0
  if (Math.abs(perspective) > LEAST_PERSPECTIVE && Math.abs(perspective) > LEAST_SHARE * Math.abs(total)) {
    return { nearFirst: perspective > 0, by: 'perspective' }
  }
  if (Math.abs(total) > LEAST_BREATHING) return { nearFirst: total < 0, by: 'breathing' }
  return { nearFirst: names[0] < names.at(-1)!, by: 'names' }
}

/** How much more the parts that are sharp early change their scale than those that are sharp late, as a logarithm. */
function perspectiveOf(frames: FrameFacts[], { tiles, rows }: Profiles, motions: Similarity[]): number {
  const count = frames.length
  const [a, b] = [Math.floor(count * 0.25), Math.ceil(count * 0.75) - 1]
  const peaks = tiles.map((_, t) => rows.reduce((best, row, k) => (row[t] > rows[best][t] ? k : best), 0))
  const early = new Set(tiles.filter((_, t) => peaks[t] < count * 0.42))
  const late = new Set(tiles.filter((_, t) => peaks[t] > count * 0.58))
  if (early.size < 6 || late.size < 6) return 0
  const [from, to] = [prepare(frames[a].luma), prepare(frames[b].luma)]
  const width = frames[0].luma.width
  const start = compose(motions[b], invert(motions[a]))
  const changeOn = (part: Set<number>) => Math.log(registerPair(onTiles(from, TILES.across, TILES.down, part), to, width, start).motion.scale)
  const [first, last] = [changeOn(early), changeOn(late)]
  return Math.abs(first) - Math.abs(last)
}
