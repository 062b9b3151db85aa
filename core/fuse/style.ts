import type { Bend, Plane, Similarity } from '../raster'
import type { FrameSamples, Kernels } from '../raster/kernels'
import type { DepthMaps } from './focusMap'
import type { StyleName } from './purposes'
import type { Tuning } from './tuning'

/** Where a frame is held back, as another shows what moved there: marks on a small picture of the whole. */
export interface HeldBack {
  width: number
  height: number
  data: Uint8Array
}

export interface StyleOptions {
  width: number
  height: number
  /** What computes; the compiled kernels in this thread where absent. */
  kernels?: Kernels
  /** What is asked for beside the style. */
  tuning?: Tuning
  /** Where each frame is held back, by its number in focus order; nowhere where absent. */
  heldBack?: (index: number) => HeldBack | undefined
}

/** A frame as it was decoded, with its place in focus order. */
export interface SeriesFrame {
  index: number
  /** Interleaved RGB, 8 or 16 bits, sRGB-encoded; absent where they were put in before. */
  samples?: FrameSamples
  /** From the reference frame to this one. */
  motion: Similarity
  /** What moved on its own beside that. */
  bend?: Bend
  /** Factor on encoded values that brings it to the reference's exposure. */
  gain: number
}

export interface Fused extends DepthMaps {
  width: number
  height: number
  /** Interleaved RGB, 16 bits, in the kernels' memory: to be used before anything else is computed there. */
  samples: Uint16Array
}

/** What a series has come to before all its frames are in: small, to be looked at while the rest is fused. */
export interface SoFar {
  width: number
  height: number
  /** Interleaved RGB, 16 bits. */
  samples: Uint16Array
  /** Place in focus order of what is sharpest so far. */
  depth: Plane
}

/** A way of fusing, as a streaming accumulator: it sees each frame once and its memory does not grow with their number. */
export interface Accumulator {
  /** Takes in the samples of the frame that is added next; what they lie in may be given back then. */
  put(samples: FrameSamples): void
  /** Frames come in focus order: from the first to the last, or, where far depths are preferred, from the last to the first. */
  add(frame: SeriesFrame): void
  /** Takes the frames once more when all were added, for the finest detail; not all have to be given. */
  addAgain(frame: SeriesFrame): void
  /** What the frames added so far come to, at half the size or smaller, at most 1000 px wide; nothing is used up. */
  soFar(): SoFar
  finish(): Fused
}

export interface FusionStyle {
  name: StyleName
  create(options: StyleOptions): Accumulator
}
