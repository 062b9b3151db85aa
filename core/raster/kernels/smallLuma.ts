import type { Plane } from '../plane'
import { WasmKernels, type Kernels } from './kernels'
import { Workspace } from './workspace'

/** Makes small pictures of frames as they were decoded, to look at. */
export class SmallLuma {
  constructor(private readonly kernels: Kernels = new WasmKernels()) {}

  /** Encoded luma, 0 … 1, of interleaved RGB samples of 8 or 16 bits, halved until it is at most so wide (see `reduce`). */
  of(samples: Uint8Array | Uint16Array, width: number, height: number, widest_px: number): Plane {
    const space = new Workspace(this.kernels, width)
    let luma = space.luma(samples, width, height, 'encoded')
    while (luma.width > widest_px) luma = space.halved(luma)
    return { width: luma.width, height: luma.height, data: space.copy(luma) }
  }
}
