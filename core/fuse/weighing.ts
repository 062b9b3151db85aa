import { expand, reduce, smooth, type Plane } from '../raster'

/**
 * How a style weighs a frame: from the energies of its bands, finest first, to one weight a place of every band and of
 * the coarse rest. `noise` is the energy that noise alone gives.
 */
export type Weighing = (energies: Plane[], noise: number) => Plane[]

export interface BandWeighing {
  /** Times that energies are smoothed, each by a Gaussian of σ = 1 px: wider neighbourhoods decide more evenly. */
  smoothings: number
  /** How decidedly the sharper frame wins: weights are energy to this power, a whole one. */
  decision: number
  /** What the coarser band's energy adds to a finer band's say: agreement over scales. */
  coarserShare: number
}

/**
 * Every band decides by its own energy, the finer bands' handed down and some of the coarser ones' handed up. Crossing
 * hairs keep their detail, and where no frame has more than noise the weights even out and the noise averages away.
 */
export function byBand({ smoothings, decision, coarserShare }: BandWeighing): Weighing {
  return (squares, noise) => {
    const energies: Plane[] = []
    for (const [level, square] of squares.entries()) {
      const energy = smoothed(square, smoothings)
      if (level > 0) addTo(energy, reduce(energies[level - 1]), 1)
      energies.push(energy)
    }
    if (coarserShare > 0) {
      for (let level = energies.length - 2; level >= 0; level--) {
        const fine = energies[level]
        addTo(fine, expand(energies[level + 1], fine.width, fine.height), coarserShare)
      }
    }
    for (const energy of energies) raise(energy, noise, decision)
    return [...energies, reduce(energies[energies.length - 1])]
  }
}

export interface SurfaceWeighing {
  /** How many of the finest bands tell where the surface is sharp. */
  bands: number
  smoothings: number
  decision: number
}

/** One weight a place, from the finest bands together, handed down to all bands: every place shows one depth. */
export function bySurface({ bands, smoothings, decision }: SurfaceWeighing): Weighing {
  return (squares, noise) => {
    let energy: Plane | undefined
    for (let level = Math.min(bands, squares.length) - 1; level >= 0; level--) {
      const here = smoothed(squares[level], level === 0 ? smoothings : 1)
      if (energy) addTo(here, expand(energy, here.width, here.height), 1)
      energy = here
    }
    raise(energy!, noise, decision)
    const weights = [energy!]
    for (let level = 0; level < squares.length; level++) weights.push(reduce(weights[level]))
    return weights
  }
}

function smoothed(plane: Plane, times: number): Plane {
  let out = smooth(plane)
  for (let k = 1; k < times; k++) out = smooth(out)
  return out
}

function addTo(plane: Plane, other: Plane, share: number): void {
  for (let i = 0; i < plane.data.length; i++) plane.data[i] += share * other.data[i]
}

/** Energy to weight, in place: (energy / noise + 1) to a whole power. */
function raise({ data }: Plane, noise: number, power: number): void {
  const scale = 1 / noise
  for (let i = 0; i < data.length; i++) {
    const ratio = data[i] * scale + 1
    let weight = ratio
    for (let k = 1; k < power; k++) weight *= ratio
    data[i] = weight
  }
}
