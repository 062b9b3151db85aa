import type { Kernels } from './kernels'

/** A plane in the kernels' memory. */
export interface Slab {
  at: number
  width: number
  height: number
}

/** Hands out places in the kernels' memory; nothing is given back until all of it is. */
export class Workspace {
  private used = 1024

  constructor(readonly kernels: Kernels) {}

  bytes(count: number): number {
    const at = this.used
    // Sixteen bytes apart, as vectors like them, with room to read a vector beyond the last place.
    this.used = Math.ceil((at + count) / 16) * 16 + 16
    this.kernels.reserve(this.used)
    return at
  }

  plane(width: number, height: number): Slab {
    return { at: this.bytes(width * height * 4), width, height }
  }

  /** The samples of a plane, as they lie in the memory. */
  view({ at, width, height }: Slab): Float32Array {
    return new Float32Array(this.kernels.buffer(), at, width * height)
  }
}
