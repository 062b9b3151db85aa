import { quantile } from '../statistics'
import type { FrameFacts } from './frameFacts'
import { agreement, focusOrder, profilesOf, texturedTiles } from './order'

/** With fewer frames, shake cannot be distinguished from the focus passing. */
const LEAST_FRAMES = 4

/**
 * Frames that shook, of the usable ones. Told only where frames are named as they were shot: as the focus passes, a part
 * gets sharper and then duller, never duller and sharper again. A frame in which most parts are duller than both before
 * and after shook.
 */
export function shakenOf(frames: FrameFacts[], usable: number[]): Set<number> {
  if (usable.length < LEAST_FRAMES) return new Set()
  const used = usable.map((k) => frames[k])
  const dull = usable.filter((_, n) => duller(used, n))
  if (dull.length > 0) return new Set(dull)
  const profiles = profilesOf(used)
  if (Math.abs(agreement(focusOrder(profiles))) < IN_ORDER) return new Set()
  return new Set(usable.filter((_, n) => dipsAt(profiles.rows, n)))
}

/** Names run along the focus where they agree with the order found so well, in either direction. */
const IN_ORDER = 0.75
/** So much duller, as a logarithm, must a tile be than the tiles before and after it to count against a frame. */
const DULLER = 0.25
/** And in so many of the tiles. */
const MOSTLY = 0.6
/** Tiles so far out of focus in all three frames, as a logarithm, say nothing. */
const FAR_OUT = -2.5

function dipsAt(rows: Float64Array[], n: number): boolean {
  if (n === 0 || n === rows.length - 1) return false
  const [before, here, after] = [rows[n - 1], rows[n], rows[n + 1]]
  const dips = here.reduce((count, value, t) => count + (value < Math.min(before[t], after[t]) - DULLER ? 1 : 0), 0)
  const telling = here.reduce((count, _, t) => count + (Math.max(before[t], after[t]) > FAR_OUT ? 1 : 0), 0)
  return dips > MOSTLY * telling
}

/**
 * Focus hardly changes a picture in which fewer of the textured tiles than this show it: a deep view in a few frames.
 * There a dip is small but everywhere.
 */
const HARDLY = 0.25
/** In three of four tiles, and in half of them. */
const DULL = { three: 0.06, half: 0.12 }

function duller(frames: FrameFacts[], n: number): boolean {
  if (n === 0 || n === frames.length - 1) return false
  // Told by the others: a frame that shook would itself make tiles change.
  const others = frames.toSpliced(n, 1)
  const tiles = texturedTiles(others)
  if (tiles.length === 0 || profilesOf(others).tiles.length >= HARDLY * tiles.length) return false
  const [before, here, after] = [frames[n - 1], frames[n], frames[n + 1]].map(({ sharpness }) => sharpness)
  const dip = tiles.map((t) => Math.log(here[t] / Math.min(before[t], after[t])))
  return quantile(dip, 0.75) < -DULL.three && quantile(dip, 0.5) < -DULL.half
}
