import { createPlane, type Plane } from '../raster'
import type { Slab, Workspace } from '../raster/kernels'
import { evenedDepth, filledDepth } from './relief'

/** What is known of the depth, at half the picture's size; each map is made when it is asked for, once, in the kernels' memory. */
export interface DepthMaps {
  /** Index of the frame that is sharpest. */
  source(): Plane
  /** Place in focus order, between frames too, evened out over what is alike around, its doubtful places filled in. */
  depth(): Plane
  /**
   * How far depth can be trusted, 0 … 1: detail above the noise, in one part of the series more than in the others, and at
   * the depth of what lies around. Above a half, opaque subjects are within half a frame in nine textured places of ten.
   */
  confidence(): Plane
  /** How strong the finest detail of the sharpest frame is, in multiples of what noise alone has. */
  detail(): Plane
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
  /** −1 where frames come from the last to the first. */
  private way = 1

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

  /** Takes the energies of the next frame, in focus order from either end. */
  add(energy: Slab, index: number): void {
    const begun = this.lastIndex >= 0
    if (begun) this.way = Math.sign(index - this.lastIndex)
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
    const { source, depth, confidence, detail } = this.readings(noise)
    const { width, height } = this.planes[0]
    const made = (reading: Reading) => this.read(reading, room.loose(width, height), 1)
    const trust = once(() => made(confidence))
    const evened = once(() => evenedDepth(made(depth), trust(), room))
    return {
      source: once(() => made(source)),
      depth: once(() => filledDepth(evened().depth, trust(), (w, h) => room.loose(w, h))),
      confidence: once(() => shownConfidence(trust(), evened().agreement)),
      detail: once(() => made(detail)),
      room,
    }
  }

  /** Depth and confidence as far as they are known now, at every `step`-th place across and down. */
  soFar(noise: number, step: number): { depth: Plane; confidence: Plane } {
    const { depth, confidence } = this.readings(noise)
    const { width, height } = this.planes[0]
    const made = (reading: Reading) => this.read(reading, createPlane(Math.ceil(width / step), Math.ceil(height / step)), step)
    return { depth: made(depth), confidence: made(confidence) }
  }

  /** Depth as the peaks tell it, neither evened nor filled. */
  peaks(noise: number): Plane {
    const { width, height } = this.planes[0]
    return this.read(this.readings(noise).depth, createPlane(width, height), 1)
  }

  /** What each map says. Each goes through a row by itself: asked place by place, it would take twice as long. */
  private readings(noise: number): Record<'source' | 'depth' | 'confidence' | 'detail', Reading> {
    const [best, source, before, after, , sum] = this.planes.map((slab) => this.space.view(slab))
    const { count, way } = this
    return {
      source: (from, step, row) => {
        for (let i = 0, o = from; i < row.length; i++, o += step) row[i] = source[o]
      },
      depth: (from, step, row) => {
        for (let i = 0, o = from; i < row.length; i++, o += step) row[i] = source[o] + way * peakOffset(before[o], best[o], after[o])
      },
      confidence: (from, step, row) => {
        for (let i = 0, o = from; i < row.length; i++, o += step) row[i] = (best[o] / (best[o] + noise)) * prominence(best[o], sum[o] / count)
      },
      detail: (from, step, row) => {
        for (let i = 0, o = from; i < row.length; i++, o += step) row[i] = best[o] / noise
      },
    }
  }

  private read(reading: Reading, map: Plane, step: number): Plane {
    const { stride } = this.planes[0]
    for (let y = 0; y < map.height; y++) reading(y * step * stride, step, map.data.subarray(y * map.width, (y + 1) * map.width))
    return map
  }
}

/** Of what is trusted around, this part at the same depth says nothing yet, and this part all: a step lies at the half. */
const [SPLIT, AGREED] = [0.7, 1]

/** The confidence to show, written over the agreement: right beside a step there are two depths, and either may be found. */
function shownConfidence(trust: Plane, agreement: Plane): Plane {
  for (let i = 0; i < trust.data.length; i++)
    agreement.data[i] = trust.data[i] * Math.min(1, Math.max(0, (agreement.data[i] - SPLIT) / (AGREED - SPLIT)))
  return agreement
}

function once<Made>(make: () => Made): () => Made {
  let made: Made | undefined
  return () => (made ??= make())
}

/** Fills a row of a map from the places `from`, `from + step`, … of the planes. */
type Reading = (from: number, step: number, row: Float32Array) => void

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

/** Where between −½ and ½ the peak lies; 0 at an end of the series, where one neighbour is missing (marked by −1). */
function peakOffset(before: number, best: number, after: number): number {
  if (before < 0 || after < 0 || !(best > 0)) return 0
  const [a, b] = [Math.log(Math.max(before / best, LEAST_PART)), Math.log(Math.max(after / best, LEAST_PART))]
  const bend = a + b
  return bend < -1e-6 ? Math.min(0.5, Math.max(-0.5, (0.5 * (a - b)) / bend)) : 0
}
