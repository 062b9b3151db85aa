import type { Picture, Plane, Similarity } from '../raster'
import type { Kernels } from '../raster/kernels'

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

export interface Fused {
  picture: Picture
  /** Index of the frame that shows, per pixel. */
  source: Plane
  /** Place in focus order, between frames too, per pixel. */
  depth: Plane
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
