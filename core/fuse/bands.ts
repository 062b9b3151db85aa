import { cubicTaps, type Picture, type Plane, type Similarity } from '../raster'
import { WasmKernels, Workspace, type Slab } from '../raster/kernels'
import { noiseOf } from './noise'
import { Pyramids } from './pyramids'
import type { Accumulator, Fused, SeriesFrame, StyleOptions } from './style'
import type { Weighing } from './weighing'

/**
 * Fuses by the bands of a Laplacian pyramid (Burt & Kolczynski, 1993): each band is the mean of the frames' bands, weighted
 * as the style weighs. Means of what the frames show, so that no colour and no halo comes in that no frame has.
 */
export class BandAccumulator implements Accumulator {
  private readonly levels: number
  private readonly space: Workspace
  private readonly pyramids: Pyramids
  private readonly taps: number
  private readonly rowBuffers: number
  private samples?: { at: number; bytes: number }
  /** The frame's three pyramids, the finest first, and the energies of its bands, which become its weights. */
  private readonly frame: [Slab, Slab, Slab][]
  private readonly weights: Slab[]
  private readonly sums: [Slab, Slab, Slab][]
  private readonly totals: Slab[]
  /** At half the size: which frame has shown most so far, by how much, and indices by weight. */
  private readonly source: Slab
  private readonly best: Slab
  private readonly weightedIndex: Slab
  private noise?: number
  private count = 0

  constructor(
    { width, height, kernels = new WasmKernels() }: StyleOptions,
    private readonly weighing: Weighing,
  ) {
    this.levels = Math.max(2, Math.floor(Math.log2(Math.min(width, height))) - 3)
    this.space = new Workspace(kernels)
    const { space } = this
    const weights = cubicTaps()
    this.taps = space.bytes(weights.byteLength)
    new Float32Array(kernels.buffer(), this.taps, weights.length).set(weights)
    // A row of three channels for each part, with room for the edges.
    this.rowBuffers = space.bytes(kernels.parts * ((width + 8) * 3 + 16) * 4)
    this.pyramids = new Pyramids(space, width, height)
    const sizes = sizesOf(width, height, this.levels)
    const planes = () => sizes.map(([w, h]) => space.plane(w, h))
    const triples = (): [Slab, Slab, Slab][] => sizes.map(([w, h]) => [space.plane(w, h), space.plane(w, h), space.plane(w, h)])
    this.frame = triples()
    this.sums = triples()
    this.weights = planes()
    this.totals = planes()
    const [halfWidth, halfHeight] = sizes[1]
    this.source = space.plane(halfWidth, halfHeight)
    this.best = space.plane(halfWidth, halfHeight)
    this.weightedIndex = space.plane(halfWidth, halfHeight)
  }

  add({ index, samples, motion, gain }: SeriesFrame): void {
    this.takeIn(samples, motion, gain)
    this.measure()
    this.noise ??= noiseOf(this.space.view(this.weights[0]), this.weights[0].width, this.weights[0].height)
    if (this.weighing.by === 'band') this.weighBands(this.noise)
    else this.weighSurface(this.noise)
    this.accumulate(index)
    this.count++
  }

  finish(): Fused {
    if (this.count === 0) throw new Error('No frame was added.')
    const { pyramids, sums, totals } = this
    sums.forEach((channels, level) => {
      for (const sum of channels) pyramids.run('divide', [sum.at, totals[level].at, sum.width], sum.height)
    })
    for (let level = this.levels - 1; level >= 0; level--)
      for (let channel = 0; channel < 3; channel++) pyramids.addExpanded(sums[level + 1][channel], sums[level][channel], 1)
    const [red, green, blue] = sums[0].map((slab) => this.planeOf(slab))
    const picture: Picture = { width: red.width, height: red.height, planes: [red, green, blue] }
    const { weightedIndex } = this
    pyramids.run('divide', [weightedIndex.at, totals[1].at, weightedIndex.width], weightedIndex.height)
    // The planes of the last frame are free now.
    const [depth, source] = this.frame[0]
    pyramids.writeExpanded(weightedIndex, depth)
    this.enlarge(this.source, source)
    return { picture, source: this.planeOf(source), depth: this.planeOf(depth) }
  }

  /** The frame's channels, brought into the reference frame with one interpolation. */
  private takeIn(samples: Uint8Array | Uint16Array, motion: Similarity, gain: number): void {
    const { width, height } = this.pyramids.scratch
    const { kernels } = this.space
    if (!this.samples || this.samples.bytes < samples.byteLength)
      this.samples = { at: this.space.bytes(samples.byteLength + 64), bytes: samples.byteLength }
    const wide = samples instanceof Uint16Array
    const { at } = this.samples
    const there = wide ? Uint16Array : Uint8Array
    new there(kernels.buffer(), at, samples.length).set(samples)
    const a = motion.scale * Math.cos(motion.rotation_rad)
    const b = motion.scale * Math.sin(motion.rotation_rad)
    const [centreX, centreY] = [(width - 1) / 2, (height - 1) / 2]
    const startX = -a * centreX + b * centreY + motion.dx_px + centreX
    const startY = -b * centreX - a * centreY + motion.dy_px + centreY
    const [red, green, blue] = this.frame[0]
    const scale = gain / (wide ? 65535 : 255)
    const args = [at, Number(wide), red.at, green.at, blue.at, width, height, a, b, startX, startY, scale, this.taps, this.rowBuffers, kernels.parts]
    this.pyramids.run('warpSamples', args, height)
  }

  /** Pyramids of the frame, and the energy of each of its bands: the mean of the channels' squares. */
  private measure(): void {
    const { frame, pyramids, weights } = this
    for (let level = 0; level < this.levels; level++) {
      for (let channel = 0; channel < 3; channel++) {
        const band = this.bandOf(level, channel, () => pyramids.reduce(frame[level][channel], frame[level + 1][channel]))
        pyramids.run('addSquares', [band.at, weights[level].at, band.width, Number(channel === 0)], band.height)
      }
    }
  }

  /** A band of the frame, in the scratch plane. */
  private bandOf(level: number, channel: number, prepare?: () => void): Slab {
    prepare?.()
    const fine = this.frame[level][channel]
    const band = { ...fine, at: this.pyramids.scratch.at }
    this.pyramids.band(fine, this.frame[level + 1][channel], band)
    return band
  }

  private weighBands(noise: number): void {
    const { pyramids, weights, weighing, levels } = this
    if (weighing.by !== 'band') return
    for (let level = 0; level < levels; level++) {
      const here = weights[level]
      pyramids.smooth(here, weighing.smoothings)
      if (level === 0) continue
      const finer = { ...here, at: pyramids.scratch.at }
      pyramids.reduce(weights[level - 1], finer)
      pyramids.run('add', [finer.at, here.at, here.width], here.height)
    }
    if (weighing.coarserShare > 0)
      for (let level = levels - 2; level >= 0; level--) pyramids.addExpanded(weights[level + 1], weights[level], weighing.coarserShare)
    for (let level = 0; level < levels; level++) this.raise(weights[level], noise)
    pyramids.reduce(weights[levels - 1], weights[levels])
  }

  private weighSurface(noise: number): void {
    const { pyramids, weights, weighing, levels } = this
    if (weighing.by !== 'surface') return
    for (let level = Math.min(weighing.bands, levels) - 1; level >= 0; level--) {
      pyramids.smooth(weights[level], level === 0 ? weighing.smoothings : 1)
      if (level < Math.min(weighing.bands, levels) - 1) pyramids.addExpanded(weights[level + 1], weights[level], 1)
    }
    this.raise(weights[0], noise)
    for (let level = 0; level < levels; level++) pyramids.reduce(weights[level], weights[level + 1])
  }

  /** Energies to weights. */
  private raise({ at, width, height }: Slab, noise: number): void {
    this.pyramids.run('raise', [at, width, 1 / noise, this.weighing.decision], height)
  }

  private accumulate(index: number): void {
    const { frame, pyramids, weights, sums, totals, levels } = this
    for (let level = 0; level <= levels; level++) {
      const weight = weights[level]
      for (let channel = 0; channel < 3; channel++) {
        const band = level === levels ? frame[level][channel] : this.bandOf(level, channel)
        pyramids.run('addWeighted', [band.at, weight.at, sums[level][channel].at, band.width], band.height)
      }
      pyramids.run('add', [weight.at, totals[level].at, weight.width], weight.height)
    }
    // The second band tells what shows where: the finest is too noisy to be told by a single frame.
    const { best, source, weightedIndex } = this
    pyramids.run('choose', [weights[1].at, best.at, source.at, weightedIndex.at, best.width, index], best.height)
  }

  /** Each place of the smaller plane twice along both sides. */
  private enlarge(small: Slab, large: Slab): void {
    const [from, to] = [this.space.view(small), this.space.view(large)]
    for (let y = 0, i = 0; y < large.height; y++) {
      const row = (y >> 1) * small.width
      for (let x = 0; x < large.width; x++, i++) to[i] = from[row + (x >> 1)]
    }
  }

  private planeOf(slab: Slab): Plane {
    return { width: slab.width, height: slab.height, data: this.space.view(slab) }
  }
}

function sizesOf(width: number, height: number, levels: number): [number, number][] {
  const sizes: [number, number][] = [[width, height]]
  for (let level = 0; level < levels; level++) sizes.push([(sizes[level][0] + 1) >> 1, (sizes[level][1] + 1) >> 1])
  return sizes
}
