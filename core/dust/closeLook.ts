import type { Rectangle } from '../raster'
import type { Pair, SensorField } from './field'
import { difference, MOST_SQUARE, NOISE_SQUARE, tellingOf } from './seen'

/** A pair in a part that is looked at closely. */
interface SeenPair {
  of: number
  /** What its frames differ by at each place, with what the other place does where that lies beside the part; NaN where they do not show the same. */
  apart: Float32Array
  /** How much of a speck as large as the part they can tell. */
  tells: number
  /** How much each place counts, times what they can tell; 0 where they do not show the same. */
  weights: Float32Array
  /** The place of the part that the other frame shows there, or the one behind its last where it lies beside the part. */
  places: Int32Array
}

/** What no round changes, and how much all counts that is said of a place. */
interface Sums {
  fixed: Float32Array
  weight: Float32Array
}

/** A place of the sensor looked at closely: its shade as a logarithm, and that by each frame alone; NaN where a frame tells nothing. */
export interface CloseUp extends Rectangle {
  shade: Float32Array
  byFrame: Float32Array[]
  /** For each frame, how much of what it differs by from others the shade explains: 1 where that is all due to the sensor. */
  explained: number[]
}

/**
 * Each round goes on by this part of the round before (Polyak, 1964): what is as wide as a speck, which alone takes hundreds of rounds,
 * settles as many times faster as 1 − this goes into 1. Substitution stays stable below 1.
 */
const MOMENTUM = 0.8
/** What differs by a square so many times as large as usual counts half. */
const DOUBT = 6

/** A part of the sensor, as fine as the frames, after as many rounds as one asks for; what lies around it stays. */
export class CloseLook {
  private readonly size: number
  /** One more place stands for all beside the part: what these do is in the sums already. */
  private readonly shade: Float32Array
  /** As it was a round before. */
  private readonly before: Float32Array
  private readonly seen: SeenPair[]
  private readonly ofFrames: Sums[]
  private readonly ofAll: Sums

  constructor(
    private readonly field: SensorField,
    private readonly part: Rectangle,
  ) {
    this.size = part.width * part.height
    this.shade = new Float32Array(this.size + 1)
    for (let y = 0, i = 0; y < part.height; y++) for (let x = 0; x < part.width; x++, i++) this.shade[i] = field.shadeAt(part.x + x, part.y + y)
    this.before = this.shade.slice()
    const none = (): Sums => ({ fixed: new Float32Array(this.size), weight: new Float32Array(this.size) })
    this.ofFrames = field.frames.map(none)
    this.ofAll = none()
    this.seen = field.pairs.map((pair) => this.seenBy(pair))
    this.sum()
  }

  /**
   * Weighs anew by what is left when the shade is taken off: a pair by how alike its frames are in this part then, a place less where they
   * differ by more than that (weights of Cauchy), as where texture came into focus or at a near edge.
   */
  doubt(): void {
    for (const { apart, tells, weights, places } of this.seen) {
      const leftAt = (i: number) => (apart[i] - this.shade[i] + this.shade[places[i]]) ** 2
      let [squares, count] = [NOISE_SQUARE, 1]
      for (let i = 0; i < this.size; i++) {
        if (weights[i] === 0) continue
        squares += Math.min(MOST_SQUARE, leftAt(i))
        count++
      }
      const usual = squares / count + NOISE_SQUARE
      for (let i = 0; i < this.size; i++) if (weights[i] > 0) weights[i] = tells / (usual + leftAt(i) / DOUBT)
    }
    this.sum()
  }

  /** Adds up what no round changes. */
  private sum(): void {
    for (const { fixed, weight } of [this.ofAll, ...this.ofFrames]) {
      fixed.fill(0)
      weight.fill(0)
    }
    for (const { of, apart, weights } of this.seen) {
      const { fixed, weight } = this.ofFrames[of]
      for (let i = 0; i < this.size; i++) {
        if (weights[i] === 0) continue
        fixed[i] += weights[i] * apart[i]
        weight[i] += weights[i]
      }
    }
    for (const { fixed, weight } of this.ofFrames)
      for (let i = 0; i < this.size; i++) {
        this.ofAll.fixed[i] += fixed[i]
        this.ofAll.weight[i] += weight[i]
      }
  }

  /** So many rounds more; what is known then. */
  after(rounds: number): CloseUp {
    const { shade, before, size } = this
    const { fixed, weight } = this.ofAll
    for (let round = 0; round < rounds; round++) {
      const sum = fixed.slice()
      for (const one of this.seen) addShades(one, shade, sum)
      for (let i = 0; i < size; i++) {
        if (!(weight[i] > 0)) continue
        const next = sum[i] / weight[i] + MOMENTUM * (shade[i] - before[i])
        before[i] = shade[i]
        shade[i] = next
      }
    }
    const byFrame = this.ofFrames.map((one) => one.fixed.slice())
    for (const one of this.seen) addShades(one, shade, byFrame[one.of])
    this.ofFrames.forEach((one, k) => {
      for (let i = 0; i < size; i++) byFrame[k][i] = one.weight[i] > 0 ? byFrame[k][i] / one.weight[i] : NaN
    })
    return { ...this.part, shade: shade.slice(0, size), byFrame, explained: this.explained() }
  }

  private seenBy(pair: Pair): SeenPair {
    const { field, part, size } = this
    const { of, other, full } = pair
    const { width, height } = part
    const apart = new Float32Array(size)
    difference(field.logsOf(of), field.logsOf(other), full, part, apart)
    const tells = tellingOf(full, part)
    const [weights, places] = [new Float32Array(size), new Int32Array(size).fill(size)]
    const { a, b, u, v } = full
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        if (Number.isNaN(apart[i])) continue
        const px = part.x + x
        const py = part.y + y
        const qx = Math.round(a * px - b * py + u)
        const qy = Math.round(b * px + a * py + v)
        const lx = qx - part.x
        const ly = qy - part.y
        if (lx >= 0 && ly >= 0 && lx < width && ly < height) places[i] = ly * width + lx
        else apart[i] += field.shadeAt(qx, qy)
        weights[i] = tells * field.weightAt(pair, px, py)
      }
    return { of, apart, tells, weights, places }
  }

  /** How much of what each frame differs by the shade explains: least squares over the part. */
  private explained(): number[] {
    const { seen, shade, size } = this
    const [product, square] = [new Float64Array(this.ofFrames.length), new Float64Array(this.ofFrames.length)]
    for (const { of, apart, tells, weights, places } of seen)
      for (let i = 0; i < size; i++) {
        if (places[i] === size || tells === 0) continue
        const expected = shade[i] - shade[places[i]]
        // All pairs count alike: those that tell little must not be left out, or doubtful specks pass.
        const w = weights[i] / tells
        product[of] += w * apart[i] * expected
        square[of] += w * expected * expected
      }
    return [...product].map((value, k) => (square[k] > 0 ? value / square[k] : NaN))
  }
}

/** Adds what the other frame's places do, as one frame of a pair sees them. */
function addShades({ weights, places }: SeenPair, shade: Float32Array, sum: Float32Array): void {
  for (let i = 0; i < sum.length; i++) sum[i] += weights[i] * shade[places[i]]
}
