import type { Kernels } from '../raster/kernels'
import type { Space } from './space'

/** A map as large as the picture: what its depth is, or how sure that is; 0 … 65535. */
export interface Grey {
  width: number
  height: number
  data: Uint16Array
}

/** A picture on its way through a recipe. */
export interface Canvas {
  /** Interleaved RGB of 16 bits, in `space`. */
  samples: Uint16Array
  width: number
  height: number
  space: Space
  depth?: Grey
  confidence?: Grey
  /** Px of it for one px of the picture that the recipe began with. */
  scale: number
}

/** What a step needs from outside: kernels, and a well-known library that resizes and sets words. */
export interface Tools {
  /** What computes: on all cores where there are threads, or in one. */
  kernels: Kernels
  /** The same picture in another size; 1 or 3 interleaved channels of 16 bits. */
  resize(samples: Uint16Array, from: { width: number; height: number }, to: { width: number; height: number }, channels: 1 | 3): Promise<Uint16Array>
  /** Words in white on black, so many px high from the foot of g to the head of d. */
  words(text: string, height_px: number): Promise<{ width: number; height: number; data: Uint8Array }>
}
