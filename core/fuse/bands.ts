import { collapse, createPlane, expand, laplacianPyramid, type Picture, type Plane } from '../raster'
import type { Accumulator, Fused, StyleOptions, WarpedFrame } from './style'
import type { Weighing } from './weighing'

/** Energy that counts as noise at the least, on 0 … 1 samples, squared: what rounding to 8 bits and little light leave. */
const LEAST_NOISE = 2e-5
/** The quietest places tell the noise; energy this many times theirs begins to count. */
const NOISE_TIMES = 6
const QUIET_SHARE = 0.05

interface Band {
  sums: [Plane, Plane, Plane]
  weight: Plane
}

/**
 * Fuses by the bands of a Laplacian pyramid (Burt & Kolczynski, 1993): each band is the mean of the frames' bands, weighted
 * as the style weighs. Means of what the frames show, so that no colour and no halo comes in that no frame has.
 */
export class BandAccumulator implements Accumulator {
  private readonly levels: number
  private bands: Band[] = []
  private noise?: number
  private best?: { weight: Plane; source: Plane; weightedIndex: Plane; sum: Plane }

  constructor(
    { width, height }: StyleOptions,
    private readonly weigh: Weighing,
  ) {
    this.levels = Math.max(2, Math.floor(Math.log2(Math.min(width, height))) - 3)
  }

  add({ index, picture }: WarpedFrame): void {
    const pyramids = picture.planes.map((plane) => laplacianPyramid(plane, this.levels))
    const squares = Array.from({ length: this.levels }, (_, level) => meanSquares(pyramids.map((pyramid) => pyramid[level])))
    this.noise ??= noiseOf(squares[0])
    const weights = this.weigh(squares, this.noise)
    weights.forEach((weight, level) => {
      const band = this.band(level, weight)
      pyramids.forEach((pyramid, channel) => addWeighted(band.sums[channel], pyramid[level], weight))
      accumulate(band.weight, weight)
    })
    // The second band decides what shows where: the finest is too noisy to be told by a single frame.
    this.chooseSource(index, expand(weights[1], picture.width, picture.height))
  }

  finish(): Fused {
    if (!this.best) throw new Error('No frame was added.')
    const [red, green, blue] = [0, 1, 2].map((channel) => collapse(this.bands.map(({ sums, weight }) => divide(sums[channel], weight))))
    const picture: Picture = { width: red.width, height: red.height, planes: [red, green, blue] }
    return { picture, source: this.best.source, depth: divide(this.best.weightedIndex, this.best.sum) }
  }

  private band(level: number, { width, height }: Plane): Band {
    this.bands[level] ??= {
      sums: [createPlane(width, height), createPlane(width, height), createPlane(width, height)],
      weight: createPlane(width, height),
    }
    return this.bands[level]
  }

  private chooseSource(index: number, weight: Plane): void {
    const { width, height } = weight
    this.best ??= {
      weight: createPlane(width, height),
      source: createPlane(width, height),
      weightedIndex: createPlane(width, height),
      sum: createPlane(width, height),
    }
    const { best } = this
    for (let i = 0; i < weight.data.length; i++) {
      const here = weight.data[i]
      if (here > best.weight.data[i]) {
        best.weight.data[i] = here
        best.source.data[i] = index
      }
      best.weightedIndex.data[i] += here * index
      best.sum.data[i] += here
    }
  }
}

/** Energy of noise, from the quietest places of the finest band: there it is all there is. */
function noiseOf({ width, height, data }: Plane): number {
  const TILE = 8
  const tiles: number[] = []
  for (let y = 0; y + TILE <= height; y += TILE) {
    for (let x = 0; x + TILE <= width; x += TILE) {
      let sum = 0
      for (let dy = 0; dy < TILE; dy++) for (let dx = 0; dx < TILE; dx++) sum += data[(y + dy) * width + x + dx]
      tiles.push(sum / TILE ** 2)
    }
  }
  tiles.sort((a, b) => a - b)
  return Math.max(LEAST_NOISE, NOISE_TIMES * (tiles[Math.floor(tiles.length * QUIET_SHARE)] ?? 0))
}

/** Mean of the channels' squares. */
function meanSquares([red, green, blue]: Plane[]): Plane {
  const out = createPlane(red.width, red.height)
  for (let i = 0; i < out.data.length; i++) out.data[i] = (red.data[i] ** 2 + green.data[i] ** 2 + blue.data[i] ** 2) / 3
  return out
}

function addWeighted(sum: Plane, band: Plane, weight: Plane): void {
  for (let i = 0; i < sum.data.length; i++) sum.data[i] += band.data[i] * weight.data[i]
}

function accumulate(sum: Plane, plane: Plane): void {
  for (let i = 0; i < sum.data.length; i++) sum.data[i] += plane.data[i]
}

function divide(sum: Plane, weight: Plane): Plane {
  const out = createPlane(sum.width, sum.height)
  for (let i = 0; i < out.data.length; i++) out.data[i] = sum.data[i] / weight.data[i]
  return out
}
