import { createPlane, type Plane } from '../raster'
import type { Planes, Slab } from '../raster/kernels'
import { noiseAt, type NoiseCurve } from './noise'

/** Variances of the blurs, px², that one frame is given to look like another. */
const BLURS = [0, 0.36, 0.72, 1.44, 3, 6, 12, 24]
/** Which of them, σ = 0.85, gradients are taken of, so that noise has none; and which, σ = 1.7, brightness is read from. */
const [OF_GRADIENTS, OF_BRIGHTNESS] = [2, 4]
/** Brightness that differs over more than some 12 px is light, not motion: so many halvings away. */
const LIGHT_halvings = 3
/** What is as bright as this, of 0 … 1, is clipped, or right beside: there blur changes more than blur of what is seen would. */
const CLIPPED = 0.93
/** Differences below so many times the noise are noise. */
const NOISE_times = 6

/** Of more blur than these nothing is left in the finest band. */
const FINE_BLURS = 5

/** A frame's luma, its blurs, what of them lies in the finest band, and at half the size the mean square of its gradient around each place. */
interface Softened {
  blurs: Slab[]
  fine: Slab[]
  gradient: Slab
}

/** Compares small pictures of two frames; in the kernels' memory, which nothing else may use meanwhile. */
export class Comparer {
  private one: Softened
  private other: Softened
  /** What either was taken from. */
  private readonly taken = new Map<Softened, Plane>()
  private readonly square: Slab
  private readonly spare: Slab
  private readonly nothing: Slab
  private readonly light: Slab[]
  private readonly halves: [Slab, Slab]
  /** At half the size, what is least of all that was compared. */
  private readonly least: Slab

  constructor(private readonly planes: Planes) {
    const softened = (): Softened => ({
      blurs: BLURS.map(() => planes.plane()),
      fine: BLURS.slice(0, FINE_BLURS).map(() => planes.plane()),
      gradient: planes.plane(1),
    })
    this.nothing = planes.plane()
    planes.view(this.nothing).fill(0)
    this.one = softened()
    this.other = softened()
    this.square = planes.plane()
    this.spare = planes.plane()
    this.light = Array.from({ length: LIGHT_halvings + 1 }, (_, k) => planes.plane(k))
    this.halves = [planes.plane(1), planes.plane(1)]
    this.least = planes.plane(1)
  }

  /** Takes two frames, to be compared; of one that was there before, nothing is made again. */
  take(earlier: Plane, later: Plane): void {
    if (this.taken.get(this.other) === earlier || this.taken.get(this.one) === later) [this.one, this.other] = [this.other, this.one]
    this.soften(earlier, this.one)
    this.soften(later, this.other)
  }

  private soften(luma: Plane, to: Softened): void {
    if (this.taken.get(to) === luma) return
    this.taken.set(to, luma)
    const { planes, spare, square } = this
    const { blurs, fine, gradient } = to
    planes.put(luma, blurs[0])
    // From one blur to the next: whole steps of variance 1 by smoothing, what is left by mixing with one more.
    for (let k = 1; k < BLURS.length; k++) {
      const more = BLURS[k] - BLURS[k - 1]
      let from = blurs[k - 1]
      for (let step = 0; step < Math.floor(more); step++) {
        const to = from === spare ? square : spare
        planes.smooth(from, to)
        from = to
      }
      planes.smooth(from, blurs[k])
      planes.mix(from, blurs[k], more - Math.floor(more), blurs[k])
    }
    fine.forEach((band, k) => finestBand(planes, blurs[k], band, spare, square))
    this.gradients(blurs[OF_GRADIENTS], gradient)
  }

  /**
   * How the two disagree at each place by more than blur and light explain, at half the size: the mean square of what is left
   * of their difference when the sharper one is given the blur, of all that are tried, that makes it most like the other.
   */
  leftOver(): Plane {
    const { planes, one, other, light, least } = this
    planes.subtract(one.blurs[0], other.blurs[0], light[0])
    for (let k = 0; k < LIGHT_halvings; k++) planes.halve(light[k], light[k + 1])
    for (let k = LIGHT_halvings; k > 0; k--) planes.expand(light[k], light[k - 1])
    planes.view(least).fill(Infinity)
    for (let k = 0; k < BLURS.length; k++) {
      this.compare(one.blurs[k], other.blurs[0])
      if (k > 0) this.compare(one.blurs[0], other.blurs[k])
    }
    return planes.get(least)
  }

  /**
   * By how many px something has to lie elsewhere to leave so much, at half the size: √(2 · what is left ÷ gradient²), gradients those of the
   * frame that has less. 0 where noise explains it.
   */
  displaced_px(noise: NoiseCurve): Plane {
    const { planes, one, other, halves } = this
    const left = this.leftOver()
    const [brightness, otherwise] = [one, other].map(({ blurs }) => {
      planes.halve(blurs[OF_BRIGHTNESS], halves[1])
      return planes.get(halves[1])
    })
    const [a, b] = [one, other].map(({ gradient }) => planes.get(gradient).data)
    const out = createPlane(left.width, left.height)
    for (let i = 0; i < out.data.length; i++) {
      if (Math.max(brightness.data[i], otherwise.data[i]) > CLIPPED) continue
      const own = noiseAt(noise, brightness.data[i])
      const more = left.data[i] - 2 * own
      if (more > NOISE_times * own) out.data[i] = Math.sqrt((2 * more) / (Math.min(a[i], b[i]) + own / 2 + 1e-12))
    }
    return out
  }

  /** The same in the finest band alone, where what stands still leaves nothing: the detail of what moved, in either frame. */
  fineLeftOver(): Plane {
    const { planes, one, other, nothing, least } = this
    planes.view(least).fill(Infinity)
    for (let k = 0; k < FINE_BLURS; k++) {
      this.compare(one.fine[k], other.fine[0], nothing)
      if (k > 0) this.compare(one.fine[0], other.fine[k], nothing)
    }
    return planes.get(least)
  }

  private compare(one: Slab, other: Slab, light = this.light[0]): void {
    const { planes, square, halves, least } = this
    planes.squareApart(one, other, light, square)
    this.gather(square, halves[0])
    planes.lesser(halves[0], least)
  }

  /** Means around each place, of a Gaussian of σ = 3 px, at half the size. */
  private gather(fine: Slab, half: Slab): void {
    this.planes.halve(fine, half)
    this.planes.smoothTwice(2, half, this.halves[1])
  }

  private gradients(source: Slab, target: Slab): void {
    this.planes.squaredGradient(source, this.square)
    this.gather(this.square, target)
  }
}

/** What lies between Gaussians of σ = 1 and 1.7 px: the finest detail that is no noise. */
export function finestBand(planes: Planes, source: Slab, target: Slab, spare: Slab, another: Slab): void {
  planes.smooth(source, target)
  planes.smooth(target, spare)
  planes.smooth(spare, another)
  planes.subtract(target, another, target)
}
