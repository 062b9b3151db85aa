import { toInterleaved16, type Picture } from '../raster'
import { FrameWarper, ReusedSpace, WasmKernels, Workspace, type FrameSamples, type Laying, type Slab } from '../raster/kernels'
import { raiseFinest } from './finest'
import { FocusMap } from './focusMap'
import { noiseOf, quietOf } from './noise'
import { OneFrame } from './oneFrame'
import { Pyramids, type Raising, type Triple } from './pyramids'
import { filledDepth } from './relief'
import type { Accumulator, Fused, SeriesFrame, SoFar, StyleOptions } from './style'
import { SecondDepths } from './second'
import { SecondPass } from './secondPass'
import { tuned } from './tuning'
import type { BandWeighing, SurfaceWeighing, Weighing } from './weighing'

/** What there is so far is shown on a screen, not judged at 100 %. */
const SO_FAR_px = 1000

const AS_IT_IS: Raising = { scale: 1, least: 0, power: 0 }

/**
 * Fuses by the bands of a Laplacian pyramid (Burt & Kolczynski, 1993): each band is the mean of the frames' bands, weighted
 * as the style weighs. Means of what the frames show, so that no colour and no halo comes in that no frame has.
 */
export class BandAccumulator implements Accumulator {
  private readonly levels: number
  private readonly space: Workspace
  private readonly pyramids: Pyramids
  private readonly warper: FrameWarper
  /** The frame's three pyramids, the finest first, and the energies of its bands, which become its weights. */
  private readonly frame: Triple[]
  private readonly weights: Slab[]
  /** Of each band; of the finest, means. */
  private readonly sums: Triple[]
  private readonly totals: Slab[]
  private readonly focus: FocusMap
  private readonly weighing: Weighing
  /** Where one of two depths is preferred. */
  private readonly second?: SecondDepths
  /** Where parts are shown from one frame. */
  private readonly one?: OneFrame
  /** Where the frames come twice. */
  private again?: SecondPass
  private copies?: Triple[]
  private noise?: number
  /** How much less noise frames usually have than the present one. */
  private quiet = 1
  private begun = false
  /** Whether the samples that were put in are of 16 bits. */
  private wide = false

  constructor(
    private readonly options: StyleOptions,
    weighing: Weighing,
  ) {
    const { width, height, kernels = new WasmKernels(), tuning = {} } = options
    this.weighing = tuned(weighing, tuning)
    this.levels = Math.max(2, Math.floor(Math.log2(Math.min(width, height))) - 3)
    this.space = new Workspace(kernels, width)
    const { space } = this
    this.warper = new FrameWarper(space, width, height)
    this.pyramids = new Pyramids(space)
    const sizes = sizesOf(width, height, this.levels)
    const triples = () =>
      sizes.map(([w, h], level): Triple => {
        const plane = () => space.plane(w, h, level === 0 ? 2 : 4)
        return [plane(), plane(), plane()]
      })
    // Frames lie together: the picture is delivered where they were.
    this.frame = triples()
    this.sums = triples()
    this.totals = sizes.map(([w, h]) => space.plane(w, h))
    this.weights = sizes.map(([w, h]) => space.plane(w, h))
    // Before there are weights, the frame's samples lie there: those of 16 bits and a little beyond.
    space.bytes(Math.max(0, this.weights[0].at + 6 * width * height + 64 - space.bytes(0)))
    this.focus = new FocusMap(space, ...sizes[1])
    if (options.heldBack) this.one = new OneFrame(space, width, options.heldBack)
    if (tuning.prefer === 'near' || tuning.prefer === 'far') this.second = new SecondDepths(space, sizes.slice(0, this.levels))
  }

  put(samples: FrameSamples): void {
    this.wide = this.warper.put(samples, this.weights[0].at)
  }

  add({ index, samples, gain, ...lying }: SeriesFrame): void {
    const { frame, pyramids, levels, weighing } = this
    if (samples) this.put(samples)
    this.lay({ ...lying, gain })
    this.quiet = quietOf(gain)
    this.one?.begin(index)
    for (let level = 0; level < levels; level++)
      for (let channel = 0; channel < 3; channel++) pyramids.reduce(frame[level][channel], frame[level + 1][channel])
    if (weighing.by === 'band') this.weighBands(weighing, index)
    else this.weighSurface(weighing, index)
    this.begun = true
  }

  addAgain({ index, samples, ...lying }: SeriesFrame): void {
    const { frame, pyramids, space, weights, sums, totals } = this
    if (samples) this.put(samples)
    this.again ??= new SecondPass(space, pyramids, sums[0], totals[0], this.focus.peaks(this.noise!))
    this.lay(lying)
    for (let channel = 0; channel < 3; channel++) pyramids.reduce(frame[0][channel], frame[1][channel])
    this.again.weigh(index, weights[0])
    this.one?.begin(index)
    this.one?.hold(0, weights[0])
    this.again.add(frame[0], frame[1], weights[0])
  }

  soFar(): SoFar {
    if (!this.begun) throw new Error('No frame was added.')
    const { sums, totals, pyramids, space } = this
    const found = sums.findIndex(([{ width }], level) => level > 0 && width <= SO_FAR_px)
    const level = found < 0 ? this.levels : found
    // Put together on copies: the sums are still wanted. A few hundredths of the picture, made when first asked for.
    this.copies ??= sums.slice(level).map(([{ width, height }]): Triple => [0, 1, 2].map(() => space.plane(width, height)) as Triple)
    const { copies } = this
    copies.forEach((triple, k) => triple.forEach((copy, channel) => space.view(copy).set(space.view(sums[level + k][channel]))))
    pyramids.collapse(copies, totals.slice(level), 0)
    const [{ width, height }] = copies[0]
    const planes = copies[0].map((slab) => ({ width, height, data: space.copy(slab) })) as Picture['planes']
    const { depth, confidence } = this.focus.soFar(this.noise!, 2 ** (level - 1))
    return { width, height, samples: toInterleaved16({ width, height, planes }), depth: filledDepth(depth, confidence) }
  }

  finish(): Fused {
    if (!this.begun) throw new Error('No frame was added.')
    const { width, height } = this.options
    const out = this.frame[0][0].at
    if (this.options.tuning?.finest) {
      // The frames are not needed any more: two planes go where they lay.
      const [one] = this.weights
      const other = { ...one, at: out }
      this.again?.settle([one, other, { ...one, at: out + 4 * one.stride * height + 64 }])
      raiseFinest(this.space, this.pyramids, this.sums[0], this.noise!, [one, other])
    }
    this.pyramids.deliver(this.sums, this.totals, out)
    const samples = new Uint16Array(this.space.kernels.buffer(), out, width * height * 3)
    // Sums, totals and weights, which lie one behind the other, are not needed any more.
    const reused = new ReusedSpace(this.space, this.sums[0][0].at, this.focus.begin)
    return { width, height, samples, ...this.focus.finish(this.noise!, reused) }
  }

  /** Lays the samples that were put in on the reference frame. */
  private lay({ motion, bend, gain }: Laying): void {
    this.warper.warp(this.wide, { motion, bend, gain }, this.weights[0].at, this.frame[0])
  }

  /** Energy of a band, smoothed so many times, in the level's plane of weights. */
  private measure(level: number, smoothings: number): void {
    const { pyramids, frame } = this
    const plane = this.weights[level]
    if (level === 0 && this.noise === undefined) {
      pyramids.energy(frame[0], frame[1], plane, 0)
      this.noise = noiseOf(this.space.view(plane), plane.stride, plane.height, plane.width)
    }
    pyramids.energy(frame[level], frame[level + 1], plane, smoothings)
    // A dark frame's noise is brought up with it.
    if (this.quiet !== 1) pyramids.raise(plane, { scale: this.quiet, least: 0, power: 1 })
  }

  /**
   * How energies become weights, from (1 + what they are beside noise) to the power of the decision. Where there is nothing
   * but noise a noisier frame counts less by as much: so the mean has the least.
   */
  private raising(decision: number): Raising {
    const least = this.quiet ** (1 / decision)
    return { scale: least / (this.noise! * (this.options.tuning?.floor ?? 1)), least, power: decision }
  }

  private addBand(level: number, raised: Raising): void {
    const { pyramids, frame, weights, sums, totals } = this
    const add = level === 0 ? 'average' : 'accumulate'
    pyramids[add](frame[level], frame[level + 1], weights[level], raised, sums[level], totals[level], this.begun)
  }

  private weighBands({ smoothings, coarserShare, decision }: BandWeighing, index: number): void {
    const { pyramids, weights, levels, frame, sums, totals } = this
    for (let level = 0; level < levels; level++) {
      this.measure(level, smoothings)
      if (level > 0) pyramids.reduce(weights[level - 1], weights[level], true)
      this.second?.hold(level, weights[level], this.noise!)
      if (level === 1) this.one?.hold(level, weights[level])
      if (level === 1) this.focus.add(weights[level], index)
    }
    if (coarserShare > 0) for (let level = levels - 2; level >= 0; level--) pyramids.addExpanded(weights[level + 1], weights[level], coarserShare)
    const raised = this.raising(decision)
    for (let level = 0; level < levels; level++) {
      this.one?.holdRaised(level, weights[level], raised)
      // The last band's weights serve what remains above it too.
      if (level === levels - 1) pyramids.raise(weights[level], raised)
      this.addBand(level, level === levels - 1 ? AS_IT_IS : raised)
    }
    pyramids.reduce(weights[levels - 1], weights[levels])
    this.one?.hold(levels, weights[levels])
    pyramids.accumulateTop(frame[levels], weights[levels], sums[levels], totals[levels], this.begun)
  }

  private weighSurface({ bands, smoothings, decision }: SurfaceWeighing, index: number): void {
    const { pyramids, weights, levels, frame, sums, totals } = this
    const coarsest = Math.min(bands, levels) - 1
    for (let level = coarsest; level >= 0; level--) {
      this.measure(level, level === 0 ? smoothings : 1)
      if (level < coarsest) pyramids.addExpanded(weights[level + 1], weights[level], 1)
    }
    this.second?.hold(0, weights[0], this.noise!)
    this.one?.hold(0, weights[0])
    pyramids.reduce(weights[0], weights[1])
    this.focus.add(weights[1], index)
    pyramids.raise(weights[0], this.raising(decision))
    this.one?.hold(0, weights[0])
    for (let level = 0; level < levels; level++) {
      pyramids.reduce(weights[level], weights[level + 1])
      this.one?.hold(level + 1, weights[level + 1])
      this.addBand(level, AS_IT_IS)
    }
    pyramids.accumulateTop(frame[levels], weights[levels], sums[levels], totals[levels], this.begun)
  }
}

function sizesOf(width: number, height: number, levels: number): [number, number][] {
  const sizes: [number, number][] = [[width, height]]
  for (let level = 0; level < levels; level++) sizes.push([(sizes[level][0] + 1) >> 1, (sizes[level][1] + 1) >> 1])
  return sizes
}
