import type { Plane } from '../plane'
import type { Kernels } from './kernels'
import { Workspace, type Slab } from './workspace'

/** Small pictures in the kernels' memory, and what is done to them there. */
export class Planes {
  readonly space: Workspace

  constructor(
    kernels: Kernels,
    readonly width: number,
    readonly height: number,
  ) {
    this.space = new Workspace(kernels, width)
  }

  /** Room for a picture of the whole size, or of one halved so many times. */
  plane(halvings = 0): Slab {
    let [width, height] = [this.width, this.height]
    for (let k = 0; k < halvings; k++) [width, height] = [(width + 1) >> 1, (height + 1) >> 1]
    return this.space.plane(width, height)
  }

  put({ width, height, data }: Plane, slab: Slab): void {
    const to = this.space.view(slab)
    for (let y = 0; y < height; y++) to.set(data.subarray(y * width, (y + 1) * width), y * slab.stride)
  }

  get(slab: Slab): Plane {
    return { width: slab.width, height: slab.height, data: this.space.copy(slab) }
  }

  view(slab: Slab): Float32Array {
    return this.space.view(slab)
  }

  /** `target` = `source` smoothed by a Gaussian of σ = 1. */
  smooth(source: Slab, target: Slab): void {
    this.space.kernels.run('smooth', [source.at, source.stride, source.width, source.height, target.at], source.height)
  }

  /** Smoothed so many times, an even number, with the help of another plane. */
  smoothTwice(times: number, slab: Slab, other: Slab): void {
    for (let k = 0; k < times; k += 2) {
      this.smooth(slab, other)
      this.smooth(other, slab)
    }
  }

  halve(fine: Slab, coarse: Slab): void {
    this.space.halve(fine, coarse)
  }

  /** `fine` = `coarse` brought to twice the size. */
  expand(coarse: Slab, fine: Slab): void {
    this.space.kernels.run('expand', [coarse.at, coarse.stride, coarse.height, fine.at, fine.stride, fine.width, 1, 0], fine.height)
  }

  /** `target` = `a` + `share` · (`b` − `a`). */
  mix(a: Slab, b: Slab, share: number, target: Slab): void {
    this.space.kernels.run('mix', [a.at, b.at, share, target.at, a.stride], a.height)
  }

  /** `target` = `a` − `b`. */
  subtract(a: Slab, b: Slab, target: Slab): void {
    this.space.kernels.run('subtract', [a.at, b.at, target.at, a.stride], a.height)
  }

  /** `target` = what is less of `source` and itself. */
  lesser(source: Slab, target: Slab): void {
    this.space.kernels.run('lesser', [source.at, target.at, source.stride], source.height)
  }

  /** `target` = the square of the gradient, half the difference of the neighbours across and down; nothing at the border. */
  squaredGradient({ at, stride, width, height }: Slab, target: Slab): void {
    this.space.kernels.run('squaredGradient', [at, stride, width, height, target.at], height)
  }

  /** `target` = (`a` − `b` − `light`)². */
  squareApart(a: Slab, b: Slab, light: Slab, target: Slab): void {
    this.space.kernels.run('squareApart', [a.at, b.at, light.at, target.at, a.stride], a.height)
  }
}
