import { compose, IDENTITY, type Similarity } from '../raster'
import { POINT } from '../raster/kernels'
import type { Prepared } from '../register'
import { median } from '../statistics'
import type { FrameFacts } from './frameFacts'
import { apart, type Profiles } from './order'
import { Pairs } from './pairs'

/** From one frame to the next in focus order. */
export interface Step {
  /** How far the focus went, where 1 is the usual step of the series. */
  length: number
  /** Motion of the picture, in px of the frames as surveyed. */
  motion: Similarity
  correlation: number
  /** Parts of the subject moved on their own. */
  stirred: boolean
}

/** Below this change of scale over the series, as a logarithm, breathing tells no steps. */
const LEAST_BREATHING = 0.004
/** Steps of less than this part of a mean one, forth or back, may be none at all. */
const REPEATED = 0.1
/** And of more than this part clearly one. */
const CLEARLY = 0.3

export interface Steps {
  steps: Step[]
  /** Motion from the first frame in order to each. */
  motions: Similarity[]
  /** Whether lengths come from the change of scale, or from sharpness alone. */
  byScale: boolean
}

/**
 * How the focus and the picture moved through a series that is in order. Where the picture breathes, or the camera
 * comes closer, its change of scale measures the steps: it goes evenly with the image distance, or with the travel.
 */
export function stepsOf(frames: FrameFacts[], { rows }: Profiles, known = new Pairs()): Steps {
  const pairs = frames.slice(1).map((frame, k) => known.betweenNeighbours(frames[k], frame))
  const motions = pairs.reduce((chain, { motion }) => [...chain, compose(motion, chain.at(-1)!)], [IDENTITY])
  const scales = pairs.map(({ motion }) => Math.log(motion.scale))
  const bySharpness = rows.slice(1).map((row, k) => apart(rows[k], row))
  const total = scales.reduce((sum, s) => sum + s, 0)
  const direction = Math.sign(total)
  // A frame that repeats the one before may come out a little behind it.
  const back = (-REPEATED * Math.abs(total)) / scales.length
  const byScale = Math.abs(total) > LEAST_BREATHING && scales.filter((s) => s * direction > back).length > 0.8 * scales.length
  const raw = byScale ? scales.map((s) => s * direction) : bySharpness
  const usual = usualStep(raw)
  return {
    steps: pairs.map(({ motion, correlation, stirred }, k) => ({ length: raw[k] / usual, motion, correlation, stirred })),
    motions,
    byScale,
  }
}

/**
 * The usual one of some steps: their median. Where most of them are none at all, as of frames taken several times over, that of those
 * which are.
 */
export function usualStep(steps: number[]): number {
  const forth = steps.map((step) => Math.max(0, step))
  const sum = forth.reduce((a, b) => a + b, 0)
  // The mean of steps, each weighted by its own length: those that are none hardly count.
  const large = sum > 0 ? forth.reduce((squares, step) => squares + step ** 2, 0) / sum : 0
  const middle = median(steps)
  const usual = middle > REPEATED * large ? middle : median(forth.filter((step) => step >= CLEARLY * large))
  return Math.max(1e-9, usual)
}

/** A pair's points on some tiles only; the others are left out of the registration. */
export function onTiles(prepared: Prepared, across: number, down: number, allowed: Set<number>): Prepared {
  return {
    levels: prepared.levels.map((level) => {
      const { width, height, points: all } = level
      const kept: number[] = []
      for (let o = 0; o < all.length; o += POINT.size) {
        const [x, y] = [all[o + POINT.x] + (width - 1) / 2, all[o + POINT.y] + (height - 1) / 2]
        const tile = Math.floor((y * down) / height) * across + Math.floor((x * across) / width)
        if (allowed.has(tile)) kept.push(...all.subarray(o, o + POINT.size))
      }
      return { ...level, points: Float32Array.from(kept) }
    }),
  }
}
