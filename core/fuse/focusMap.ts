import { createPlane, type Plane, type Rectangle } from '../raster'
import type { Slab, Workspace } from '../raster/kernels'
import { evenedDepth } from './relief'

/** What is known of the depth, at half the picture's size; each map is made when it is asked for, once, in the kernels' memory. */
export interface DepthMaps {
  /** Index of the frame that is sharpest. */
  source(): Plane
  /** Place in focus order, between frames too, evened out over what is alike around. */
  depth(): Plane
  /** How far depth can be trusted, 0 … 1: detail above the noise, in one part of the series more than in the others. */
  confidence(): Plane
  /** Room beside the maps, in the kernels' memory. */
  room: Workspace
}

/**
 * Which frame is sharpest at each place, and where between frames the sharpest would have been: the peak of a Gaussian
 * through the best frame and its neighbours (Nayar & Nakagawa, 1994). Six planes of a quarter of the pixels, however
 * many frames there are.
 */
export class FocusMap {
  private readonly planes: Slab[]
  private lastIndex = -1
  private count = 0

  constructor(
    private readonly space: Workspace,
    width: number,
    height: number,
  ) {
    // Best energy, its frame, the energy of the frames before and after it, that of the last frame, and the sum.
    this.planes = Array.from({ length: 6 }, () => space.plane(width, height))
  }

  /** Where its planes begin in the memory. */
  get begin(): number {
    return this.planes[0].at
  }

  /** Takes the energies of the next frame. */
  add(energy: Slab, index: number): void {
    const begun = this.lastIndex >= 0
    this.space.kernels.run(
      'peak',
      [energy.at, ...this.planes.map(({ at }) => at), energy.stride, index, this.lastIndex, Number(begun)],
      energy.height,
    )
    this.lastIndex = index
    this.count++
  }

  /** The maps, in `room`; `noise` is the energy that noise alone has. */
  finish(noise: number, room: Workspace): DepthMaps {
    const { source, depth, confidence } = this.values(noise)
    const { width, height } = this.planes[0]
    const made = (of: (place: number) => number) => this.read(of, room.loose(width, height), 1)
    let trust: Plane | undefined
    const sure = () => (trust ??= made(confidence))
    return { source: () => made(source), confidence: sure, depth: () => evenedDepth(made(depth), sure(), room), room }
  }

  /** Depth and confidence as far as they are known now, at every `step`-th place across and down. */
  soFar(noise: number, step: number): { depth: Plane; confidence: Plane } {
    const { depth, confidence } = this.values(noise)
    const { width, height } = this.planes[0]
    const made = (of: (place: number) => number) => this.read(of, createPlane(Math.ceil(width / step), Math.ceil(height / step)), step)
    return { depth: made(depth), confidence: made(confidence) }
  }

  /** What each map says at a place of the planes. */
  private values(noise: number) {
    const [best, source, before, after, , sum] = this.planes.map((slab) => this.space.view(slab))
    return {
      source: (o: number) => source[o],
      depth: (o: number) => source[o] + peakOffset(before[o], best[o], after[o]),
      confidence: (o: number) => (best[o] / (best[o] + noise)) * prominence(best[o], sum[o] / this.count),
    }
  }

  private read(of: (place: number) => number, map: Plane, step: number): Plane {
    const { stride, width, height } = this.planes[0]
    for (let y = 0, i = 0; y < height; y += step) for (let x = 0; x < width; x += step, i++) map.data[i] = of(y * stride + x)
    return map
  }
}

/** A map as whole numbers, for a grey picture. */
export interface GreyMap {
  width: number
  height: number
  data: Uint8Array | Uint16Array
}

/**
 * A part of the picture of a map of half its size, each of its places twice along both sides: what `sampleOf` makes of each,
 * rounded and held to what 8 or 16 bits can tell. In `room`, where there is one, else on the heap.
 */
export function fullSize(
  half: Plane,
  { x, y, width, height }: Rectangle,
  bits: 8 | 16,
  sampleOf: (value: number) => number,
  room?: Workspace,
): GreyMap {
  const count = width * height
  const Samples = bits === 16 ? Uint16Array : Uint8Array
  const data = room ? new Samples(room.kernels.buffer(), room.bytes((count * bits) / 8), count) : new Samples(count)
  const most = 2 ** bits - 1
  for (let row = 0; row < height; row++) {
    const to = row * width
    if (row > 0 && (y + row) % 2 === 1) {
      data.copyWithin(to, to - width, to)
      continue
    }
    const from = ((y + row) >> 1) * half.width
    for (let column = 0; column < width; column++) {
      const repeats = column > 0 && (x + column) % 2 === 1
      data[to + column] = repeats ? data[to + column - 1] : Math.min(most, Math.max(0, Math.round(sampleOf(half.data[from + ((x + column) >> 1)]))))
    }
  }
  return { width, height, data }
}

/** Where the mean is this part of the best there is no peak; where it is that part the peak is clear. */
const [FLAT, PEAKED] = [0.75, 0.45]

/**
 * How clearly one part of the series is sharper than the rest. What an edge out of focus spreads over its neighbourhood has
 * a broad and even course, and would tell a depth that nothing there has.
 */
function prominence(best: number, mean: number): number {
  return best > 0 ? Math.min(1, Math.max(0, (FLAT - mean / best) / (FLAT - PEAKED))) : 0
}

/** Energies below this part of the best say nothing more exact. */
const LEAST_PART = 1e-3

/** Where between −½ and ½ the peak lies; 0 at an end of the series, where one neighbour is missing (told by −1). */
function peakOffset(before: number, best: number, after: number): number {
  if (before < 0 || after < 0 || !(best > 0)) return 0
  const [a, b] = [Math.log(Math.max(before / best, LEAST_PART)), Math.log(Math.max(after / best, LEAST_PART))]
  const bend = a + b
  return bend < -1e-6 ? Math.min(0.5, Math.max(-0.5, (0.5 * (a - b)) / bend)) : 0
}
