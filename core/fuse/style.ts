import type { Similarity } from '../raster'
import type { Kernels } from '../raster/kernels'
import type { DepthMaps } from './focusMap'

export interface StyleOptions {
  width: number
  height: number
  /** What computes; the compiled kernels in this thread where absent. */
  kernels?: Kernels
}

/** A frame as it was decoded, with its place in focus order. */
export interface SeriesFrame {
  index: number
  /** Interleaved RGB, 8 or 16 bits, sRGB-encoded. */
  samples: Uint8Array | Uint16Array
  /** From the reference frame to this one. */
  motion: Similarity
  /** Factor on encoded values that brings it to the reference's exposure. */
  gain: number
}

export interface Fused extends DepthMaps {
  width: number
  height: number
  /** Interleaved RGB, 16 bits, in the kernels' memory: to be used before anything else is computed there. */
  samples: Uint16Array
}

/** A way of fusing, as a streaming accumulator: it sees each frame once and its memory does not grow with their number. */
export interface Accumulator {
  add(frame: SeriesFrame): void
  finish(): Fused
}

export interface FusionStyle {
  name: string
  /** What it is for, in one sentence. */
  purpose: string
  create(options: StyleOptions): Accumulator
}
