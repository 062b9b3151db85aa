import { movesCamera, type MoverKind } from '../movers'
import { compose, invert, type Similarity } from '../raster'
import { median } from '../statistics'
import { TILES, type FrameFacts } from './frameFacts'
import { agreement, type Profiles } from './order'
import type { Pairs } from './pairs'
import { onTiles } from './steps'

export interface DirectionFinding {
  /** Whether the first frame of the order is focused nearest. */
  nearFirst: boolean
  by: 'perspective' | 'breathing' | 'names'
}

/** Below this change of scale over the series, as a logarithm, neither breathing nor travel can be measured. */
const LEAST_SCALE = 8e-4
/** How often the focus is moved by ring or drive rather than on a rail, and how often a series begins near. */
const BY_RING = 0.6
const NEAR_FIRST = 0.8
/** Perspective of a rail: how much more near parts grow than far ones, as part of the growth; usual value and spread. */
const RAIL = { usual: 0.02, spread: 0.015 }
/** More than this is no perspective but a measurement that went wrong. */
const IMPLAUSIBLE = 0.15

/**
 * Which end of an ordered series is near. Two stories fit a picture that grows along the order: a ring that is focused
 * nearer and nearer, or a rail that comes closer and shows farther and farther parts; and the other way round for one
 * that shrinks. They differ in perspective: on a rail near parts grow more than far ones. We take the likelier story,
 * counting how series are usually shot. `names` are the frames' places by name, along the order; where the `mover` is
 * known there is nothing to weigh.
 */
export function nearEndOf(
  frames: FrameFacts[],
  profiles: Profiles,
  motions: Similarity[],
  names: number[],
  pairs: Pairs,
  mover?: MoverKind,
): DirectionFinding {
  const grows = Math.log(motions.at(-1)!.scale)
  const alongNames = agreement(names)
  if (Math.abs(grows) < LEAST_SCALE) return { nearFirst: alongNames >= 0, by: 'names' }
  if (mover) return { nearFirst: movesCamera(mover) ? grows > 0 : grows < 0, by: 'breathing' }
  const { excess, error } = thereAndBack(frames, profiles, motions, pairs)
  const named = (nearFirst: boolean) => (Math.abs(alongNames) < 0.9 ? 0.5 : nearFirst === alongNames > 0 ? NEAR_FIRST : 1 - NEAR_FIRST)
  const ringNearFirst = grows < 0
  // Near parts change more whichever way the camera goes; early parts are near where it comes closer.
  const sign = grows > 0 ? 1 : -1
  const ring = BY_RING * normal(excess, 0, error) * named(ringNearFirst)
  const rail = (1 - BY_RING) * normal(excess, sign * RAIL.usual, Math.hypot(error, RAIL.spread)) * named(!ringNearFirst)
  return { nearFirst: ring >= rail ? ringNearFirst : !ringNearFirst, by: ring >= rail ? 'breathing' : 'perspective' }
}

/** The perspective measured along the order and against it: what differs between the two is error. */
function thereAndBack(frames: FrameFacts[], { tiles, rows }: Profiles, motions: Similarity[], pairs: Pairs): Perspective {
  const along = perspectiveOf(frames, { tiles, rows }, motions, pairs)
  const back = perspectiveOf(frames.toReversed(), { tiles, rows: rows.toReversed() }, motions.toReversed(), pairs)
  if (!along || !back) return { excess: 0, error: 1 }
  return { excess: (along.excess - back.excess) / 2, error: Math.max(along.error, back.error, Math.abs(along.excess + back.excess) / 2) }
}

interface Perspective {
  /** How much more early parts change than late ones, as part of the whole change, and how far that may be wrong. */
  excess: number
  error: number
}

/**
 * How much more the parts that are sharp early in the order change their scale than those that are sharp late, as part
 * of the whole change: between pairs of frames about the middle, where both parts are equally blurred.
 */
function perspectiveOf(frames: FrameFacts[], { tiles, rows }: Profiles, motions: Similarity[], pairs: Pairs): Perspective | undefined {
  const count = frames.length
  const peaks = tiles.map((_, t) => rows.reduce((best, row, k) => (row[t] > rows[best][t] ? k : best), 0))
  const early = new Set(tiles.filter((_, t) => peaks[t] < count * 0.3))
  const late = new Set(tiles.filter((_, t) => peaks[t] > count * 0.7))
  if (count < 9 || early.size < 6 || late.size < 6) return undefined
  const half = Math.max(1, count / 18)
  const excesses: number[] = []
  const measured: number[] = []
  const alike: number[] = []
  for (const shift of [-1, 0, 1]) {
    for (const span of [1, 2, 3]) {
      const middle = (count - 1) / 2 + shift * half
      const [a, b] = [Math.round(middle - span * half), Math.round(middle + span * half)]
      const forth = compose(motions[b], invert(motions[a]))
      // There and back: a blurred part pulls the scale a little towards where it is measured from.
      for (const [from, to, start] of [
        [a, b, forth],
        [b, a, invert(forth)],
      ] as const) {
        const changeOn = (part: Set<number>) =>
          pairs.register(frames[from], frames[to], onTiles(pairs.preparedOf(frames[from]), TILES.across, TILES.down, part), start)
        const [first, last] = [changeOn(early), changeOn(late)]
        const change = (pair: typeof first) => Math.abs(Math.log(pair.motion.scale))
        measured.push((change(first) - change(last)) / Math.abs(Math.log(forth.scale)))
        alike.push(Math.min(first.correlation, last.correlation))
      }
      const [there, back] = measured.splice(0)
      if (Math.min(...alike.splice(0)) > 0.5) excesses.push((there + back) / 2)
    }
  }
  if (excesses.length < 3) return undefined
  const excess = median(excesses)
  const scatter = median(excesses.map((value) => Math.abs(value - excess)))
  return Math.abs(excess) > IMPLAUSIBLE ? undefined : { excess, error: Math.max(0.01, scatter / 2) }
}

function normal(value: number, mean: number, deviation: number): number {
  return Math.exp(-0.5 * ((value - mean) / deviation) ** 2) / deviation
}
