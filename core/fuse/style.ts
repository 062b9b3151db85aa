import type { Picture, Plane } from '../raster'

export interface StyleOptions {
  width: number
  height: number
}

/** A frame brought into the reference frame, with its place in focus order. */
export interface WarpedFrame {
  index: number
  picture: Picture
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
  add(frame: WarpedFrame): void
  finish(): Fused
}

export interface FusionStyle {
  name: string
  /** What it is for, in one sentence. */
  purpose: string
  create(options: StyleOptions): Accumulator
}
