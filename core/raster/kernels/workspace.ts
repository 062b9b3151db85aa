import type { Kernels } from './kernels'

/** A plane in the kernels' memory: rows `stride` places apart, of two or four bytes each. */
export interface Slab {
  at: number
  width: number
  height: number
  stride: number
  bytes: 2 | 4
}

/** Vectors need no ends where rows are padded to so many places. */
const PADDED = 8

/** Hands out places in the kernels' memory; nothing is given back until a new workspace begins anew. */
export class Workspace {
  private used: number

  /** For pictures of up to `width`. */
  constructor(
    readonly kernels: Kernels,
    width: number,
  ) {
    kernels.widen(width)
    this.used = kernels.begin
  }

  bytes(count: number): number {
    const at = this.used
    // Sixteen bytes apart, as vectors like them, with room to read a vector beyond the last place.
    this.used = Math.ceil((at + count) / 16) * 16 + 64
    this.kernels.reserve(this.used)
    return at
  }

  plane(width: number, height: number, bytes: 2 | 4 = 4): Slab {
    const stride = Math.ceil(width / PADDED) * PADDED
    return { at: this.bytes(stride * height * bytes), width, height, stride, bytes }
  }

  /** The places of a plane of f32 as they lie in the memory, padding included. */
  view({ at, stride, height }: Slab): Float32Array {
    return new Float32Array(this.kernels.buffer(), at, stride * height)
  }

  /** A copy of a plane of f32 without its padding. */
  copy(slab: Slab): Float32Array {
    const { width, height, stride } = slab
    const from = this.view(slab)
    const out = new Float32Array(width * height)
    for (let y = 0; y < height; y++) out.set(from.subarray(y * stride, y * stride + width), y * width)
    return out
  }
}
