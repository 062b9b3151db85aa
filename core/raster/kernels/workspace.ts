import type { Plane } from '../plane'
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

  /** For pictures of up to `width`; of those that the kernels are ready for, where absent. */
  constructor(
    readonly kernels: Kernels,
    width?: number,
  ) {
    if (width !== undefined) kernels.widen(width)
    this.used = kernels.begin
  }

  bytes(count: number): number {
    const at = this.used
    this.used = after(at, count)
    this.kernels.reserve(this.used)
    return at
  }

  plane(width: number, height: number, bytes: 2 | 4 = 4): Slab {
    const stride = Math.ceil(width / PADDED) * PADDED
    return { at: this.bytes(stride * height * bytes), width, height, stride, bytes }
  }

  /** A plane without padding that lies in the memory: what the heap need not hold. */
  loose(width: number, height: number): Plane {
    return { width, height, data: new Float32Array(this.kernels.buffer(), this.bytes(4 * width * height), width * height) }
  }

  /** The places of a plane of f32 as they lie in the memory, padding included. */
  view({ at, stride, height }: Slab): Float32Array {
    return new Float32Array(this.kernels.buffer(), at, stride * height)
  }

  /** The same of a plane of whole numbers of 16 bits, with a sign. */
  steps({ at, stride, height }: Slab): Int16Array {
    return new Int16Array(this.kernels.buffer(), at, stride * height)
  }

  /** Luma of interleaved RGB samples, 8 or 16 bits: in linear light, or of the samples as they are encoded. */
  luma(samples: Uint8Array | Uint16Array, width: number, height: number, of: 'light' | 'encoded'): Slab {
    const wide = samples instanceof Uint16Array
    const at = this.bytes(samples.byteLength + 64)
    const luma = this.plane(width, height)
    const There = wide ? Uint16Array : Uint8Array
    new There(this.kernels.buffer(), at, samples.length).set(samples)
    this.kernels.run('luma', [at, Number(wide), Number(of === 'encoded'), luma.at, luma.stride, width], height)
    return luma
  }

  /** A plane of f32 at half the size (see the kernel `reduce`). */
  halved(fine: Slab): Slab {
    const coarse = this.plane((fine.width + 1) >> 1, (fine.height + 1) >> 1)
    this.halve(fine, coarse)
    return coarse
  }

  /** The same into a plane that is there. */
  halve(fine: Slab, coarse: Slab): void {
    this.kernels.run('reduce', [fine.at, 4, fine.stride, fine.width, fine.height, coarse.at, coarse.stride, 0], coarse.height)
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

/** Hands out what `whole` handed out before, from `at` to before `end`, and nobody needs any more; where that is used up, new places. */
export class ReusedSpace extends Workspace {
  private free: number

  constructor(
    private readonly whole: Workspace,
    at: number,
    private readonly end: number,
  ) {
    super(whole.kernels)
    this.free = at
  }

  override bytes(count: number): number {
    const at = this.free
    if (after(at, count) > this.end) return this.whole.bytes(count)
    this.free = after(at, count)
    return at
  }
}

/** Sixteen bytes apart, as vectors like them, with room to read a vector beyond the last place. */
function after(at: number, count: number): number {
  return Math.ceil((at + count) / 16) * 16 + 64
}
