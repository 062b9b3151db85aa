import { MOST_SMOOTHINGS, type Slab, type Workspace } from '../raster/kernels'

/** Red, green and blue. */
export type Triple = [Slab, Slab, Slab]

/** Means of the finest band are kept in whole steps of 1. */
export const MEAN_STEPS = 32_767

const places = (slabs: Slab[]) => slabs.map(({ at }) => at)

/** The band between two levels, as kernels are told of it. */
const bandOf = (fine: Triple, coarse: Triple) => [
  ...places(fine),
  fine[0].stride,
  ...places(coarse),
  coarse[0].stride,
  coarse[0].height,
  fine[0].width,
]
const wordsOf = ({ scale, least, power }: Raising) => [scale, least, power]

/** Energies become weights: (energy × scale + least) to a whole power; they stay as they are where that is 0. */
export interface Raising {
  scale: number
  least: number
  power: number
}

/** Steps that bands are made of (Burt & Adelson, 1983), on planes in the kernels' memory. */
export class Pyramids {
  constructor(readonly space: Workspace) {}

  run(...[name, args, rows]: Parameters<Workspace['kernels']['run']>): void {
    this.space.kernels.run(name, args, rows)
  }

  /** `coarse` = `fine`, smoothed and halved; or that added to it. */
  reduce(fine: Slab, coarse: Slab, add = false): void {
    this.run('reduce', [fine.at, fine.bytes, fine.stride, fine.width, fine.height, coarse.at, coarse.stride, Number(add)], coarse.height)
  }

  /** `fine` += `share` × `coarse` brought to its size. */
  addExpanded(coarse: Slab, fine: Slab, share: number): void {
    this.run('expand', [coarse.at, coarse.stride, coarse.height, fine.at, fine.stride, fine.width, share, 1], fine.height)
  }

  /** `target` = `source`, smoothed by a Gaussian of σ = 1. */
  smooth(source: Slab, target: Slab): void {
    this.run('smooth', [source.at, source.stride, source.width, source.height, target.at], source.height)
  }

  /** Energy of the band between two levels, smoothed so many times, {@link MOST_SMOOTHINGS} at the most. */
  energy(fine: Triple, coarse: Triple, target: Slab, smoothings: number): void {
    const [{ bytes, stride, width, height }] = fine
    const band = [...places(fine), bytes, stride, ...places(coarse), coarse[0].stride, coarse[0].height, width, height]
    this.run('energy', [...band, Math.min(MOST_SMOOTHINGS, smoothings), target.at], height)
  }

  /** Adds a band to its sums, weighed by (energy × scale + 1)^power; by the energy as it is where the power is 0. */
  accumulate(fine: Triple, coarse: Triple, weight: Slab, raising: Raising, sums: Triple, total: Slab, begun: boolean): void {
    const args = [...bandOf(fine, coarse), weight.at, ...wordsOf(raising), ...places(sums), total.at, Number(begun)]
    this.run('accumulate', args, fine[0].height)
  }

  /** Brings the finest band into its means of 16 bits (see {@link MEAN_STEPS}), weighed in the same way; or adds it to sums in steps of their own. */
  average(fine: Triple, coarse: Triple, weight: Slab, raising: Raising, means: Triple, total: Slab, begun: boolean, sumSteps?: number): void {
    const kept = [...places(means), total.at, sumSteps ?? MEAN_STEPS, Number(sumSteps !== undefined), Number(begun)]
    this.run('average', [...bandOf(fine, coarse), weight.at, ...wordsOf(raising), ...kept], fine[0].height)
  }

  /** Adds what remains at the top of the pyramid to its sums. */
  accumulateTop(planes: Triple, weight: Slab, sums: Triple, total: Slab, begun: boolean): void {
    const [{ stride, height }] = planes
    this.run('accumulateTop', [...places(planes), stride, weight.at, ...places(sums), total.at, Number(begun)], height)
  }

  raise({ at, stride, height }: Slab, { scale, least, power }: Raising): void {
    this.run('raise', [at, stride, scale, least, power], height)
  }

  /** Puts the summed pyramids together from the top down to `level`, in place: that level's sums become the picture. */
  collapse(sums: Triple[], totals: Slab[], level: number): void {
    const top = sums.length - 1
    for (const sum of sums[top]) this.run('divide', [sum.at, totals[top].at, sum.stride], sum.height)
    for (let at = top - 1; at >= level; at--)
      sums[at].forEach((sum, channel) => {
        const coarse = sums[at + 1][channel]
        this.run('collapse', [coarse.at, coarse.stride, coarse.height, sum.at, totals[at].at, sum.stride, sum.width], sum.height)
      })
  }

  /** Puts the summed pyramids together and writes the picture as interleaved 16-bit samples to `out`. The finest level has means. */
  deliver(sums: Triple[], totals: Slab[], out: number): void {
    this.collapse(sums, totals, 1)
    const [[{ stride, width, height }], coarse] = sums
    const [{ stride: coarseStride, height: coarseHeight }] = coarse
    this.run('deliver', [...places(coarse), coarseStride, coarseHeight, ...places(sums[0]), stride, width, MEAN_STEPS, out], height)
  }
}
