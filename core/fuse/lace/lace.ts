import { collapse, createPlane, expand, laplacianPyramid, luma, reduce, smooth, type Plane } from '../../raster'
import type { Accumulator, Fused, FusionStyle, StyleOptions, WarpedFrame } from '../style'

/** Energy below this (on 0 … 1 samples, squared) is noise, and frames count alike there. */
const NOISE_ENERGY = 2e-6
/** How decidedly the sharper frame wins: weights are energy to this power. */
const DECISION = 3
/** What the finer band's energy adds to a coarser band's say. */
const FINER_SHARE = 1

/**
 * Lace: every band of a Laplacian pyramid (Burt & Kolczynski, 1993) is the mean of the frames' bands, weighted by a
 * power of the local energy there and in the bands above it. Crossing hairs keep their detail, and where no frame
 * has more than noise the weights even out and the noise averages away.
 */
export const lace: FusionStyle = { name: 'lace', create: (options) => new LaceAccumulator(options) }

interface Band {
  sums: [Plane, Plane, Plane]
  weight: Plane
}

class LaceAccumulator implements Accumulator {
  private readonly levels: number
  private bands: Band[] = []
  private best?: { energy: Plane; source: Plane; weightedIndex: Plane; weight: Plane }

  constructor({ width, height }: StyleOptions) {
    this.levels = Math.max(2, Math.floor(Math.log2(Math.min(width, height))) - 3)
  }

  add({ index, picture }: WarpedFrame): void {
    const energies = bandEnergies(laplacianPyramid(luma(picture), this.levels), this.levels)
    const weights = energies.map(decide)
    weights.push(reduce(weights[this.levels - 1]))
    picture.planes.forEach((plane, channel) => {
      laplacianPyramid(plane, this.levels).forEach((band, level) => addWeighted(this.band(level, band).sums[channel], band, weights[level]))
    })
    weights.forEach((weight, level) => accumulate(this.bands[level].weight, weight))
    this.chooseSource(index, expand(energies[1], picture.width, picture.height))
  }

  finish(): Fused {
    if (!this.best) throw new Error('No frame was added.')
    const [red, green, blue] = [0, 1, 2].map((channel) => collapse(this.bands.map(({ sums, weight }) => divide(sums[channel], weight))))
    return {
      picture: { width: red.width, height: red.height, planes: [red, green, blue] },
      source: this.best.source,
      depth: divide(this.best.weightedIndex, this.best.weight),
    }
  }

  private band(level: number, { width, height }: Plane): Band {
    this.bands[level] ??= {
      sums: [createPlane(width, height), createPlane(width, height), createPlane(width, height)],
      weight: createPlane(width, height),
    }
    return this.bands[level]
  }

  private chooseSource(index: number, energy: Plane): void {
    const { width, height } = energy
    this.best ??= {
      energy: createPlane(width, height),
      source: createPlane(width, height),
      weightedIndex: createPlane(width, height),
      weight: createPlane(width, height),
    }
    const { best } = this
    for (let i = 0; i < energy.data.length; i++) {
      if (energy.data[i] > best.energy.data[i]) {
        best.energy.data[i] = energy.data[i]
        best.source.data[i] = index
      }
      const weight = raise(energy.data[i])
      best.weightedIndex.data[i] += weight * index
      best.weight.data[i] += weight
    }
  }
}

/** Local energy of each band, with what the finer bands say handed down. */
function bandEnergies(pyramid: Plane[], levels: number): Plane[] {
  const energies: Plane[] = []
  for (let level = 0; level < levels; level++) {
    const squares = createPlane(pyramid[level].width, pyramid[level].height)
    for (let i = 0; i < squares.data.length; i++) squares.data[i] = pyramid[level].data[i] ** 2
    const energy = smooth(squares)
    if (level > 0) {
      const finer = reduce(energies[level - 1])
      for (let i = 0; i < energy.data.length; i++) energy.data[i] += FINER_SHARE * finer.data[i]
    }
    energies.push(energy)
  }
  return energies
}

function raise(energy: number): number {
  return (energy / NOISE_ENERGY + 1) ** DECISION
}

function decide(energy: Plane): Plane {
  const out = createPlane(energy.width, energy.height)
  for (let i = 0; i < out.data.length; i++) out.data[i] = raise(energy.data[i])
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
