import type { Rectangle } from '../raster'
import type { Disc } from './disc'
import type { SensorField } from './field'
import { formOf, type Leftover } from './form'
import { RingEquations, Rings } from './rings'
import { difference, MOST_SQUARE, NOISE_SQUARE, type Placing } from './seen'

/** What two frames differ by in a part of the sensor. */
interface View {
  of: number
  other: number
  placed: Placing
  /** NaN where they do not show the same. */
  apart: Float32Array
  /** How much each place counts; 0 where they do not show the same. */
  weights: Float32Array
}

/** How sure it is that a speck is one. */
export interface Evidence {
  /** How much of what frames differ by in it, as squares, it explains: 1 where that is all due to it. */
  explained: number
  /** How many times as dark it is as the frames, each alone, disagree by: the mean beside its error. */
  steady: number
}

/** Rings are so far apart where every place is looked at. */
const RING_px = 0.5
/** What differs by a square so many times as large as usual counts half. */
const DOUBT = 4
/** Rounds end where none changes the profile by more than this. */
const SETTLED = 5e-4
/** A place is a speck's where it is so dark beside the middle. */
const DARK = 0.1

/** A speck looked at closely: how dark it is so far from its middle, by all pairs of frames at once. */
export class CloseLook {
  readonly rings: Rings
  private readonly views: View[]
  private readonly left: Float32Array
  private looks = 0

  constructor(
    private readonly field: SensorField,
    readonly part: Rectangle,
    disc: Disc,
    reach_px: number,
    /** Only every so manyth place, across and down. */
    private readonly every: number,
    /** Only frames no farther from each other than so many. */
    farthest = Infinity,
  ) {
    const { width, height } = part
    this.rings = new Rings(disc.x, disc.y, reach_px, field.wide_px, RING_px * every)
    this.left = new Float32Array(width * height)
    const pairs = field.pairs.filter(({ of, other }) => Math.abs(of - other) <= farthest)
    this.views = pairs.map((pair) => {
      const [apart, weights] = [new Float32Array(width * height), new Float32Array(width * height)]
      difference(field.logsOf(pair.of), field.logsOf(pair.other), pair.full, part, apart)
      for (let y = 0; y < height; y += every)
        for (let x = 0, i = y * width; x < width; x += every, i += every)
          weights[i] = Number.isNaN(apart[i]) ? 0 : field.weightAt(pair, part.x + x, part.y + y)
      return { of: pair.of, other: pair.other, placed: pair.full, apart, weights }
    })
  }

  /** So many rounds more: each solves for the profile and the middle, and weighs anew by what is left (weights of Cauchy). */
  settle(rounds: number): void {
    for (let round = 0; round < rounds; round++) {
      const equations = new RingEquations(this.rings)
      for (const view of this.views) {
        if (this.looks > 0) this.doubt(view)
        this.each(view, (i, x, y, u, v, apart) => equations.add(x, y, u, v, apart, view.weights[i]))
        equations.endPair()
      }
      const solved = equations.solved(this.looks++ === 0)
      if (!solved || this.rings.take(solved) < SETTLED) return
    }
  }

  evidence(): Evidence {
    const { rings, field } = this
    const [products, squares] = [new Float64Array(field.frames.length), new Float64Array(field.frames.length)]
    const least = DARK * rings.values[0]
    let [all, rest] = [0, 0]
    for (const view of this.views) {
      let [total, sum, sumExpected, product, square] = [0, 0, 0, 0, 0]
      this.each(view, (i, x, y, u, v, apart) => {
        const w = view.weights[i]
        const [here, there] = [rings.at(x, y), rings.at(u, v)]
        const expected = here - there
        total += w
        sum += w * apart
        sumExpected += w * expected
        product += w * expected * apart
        square += w * expected * expected
        if (here > least && there > least) return
        all += w * apart * apart
        rest += w * (apart - expected) ** 2
      })
      if (total === 0) continue
      products[view.of] += product - (sum * sumExpected) / total
      squares[view.of] += square - (sumExpected * sumExpected) / total
    }
    return { explained: all > 0 ? 1 - rest / all : 0, steady: steadiness(products, squares) }
  }

  /** What the speck has of a form of its own beside its rings, place by place of the part. */
  form(): Float32Array {
    const halves: [Leftover[], Leftover[]] = [[], []]
    this.views.forEach((view) => {
      this.doubt(view)
      // Frames that are compared either way are in one half.
      halves[Math.min(view.of, view.other) % 2].push({ placed: view.placed, left: this.leftOf(view).slice(), weights: view.weights })
    })
    return formOf(halves, this.part, this.rings)
  }

  /** Weighs a view anew: as a whole by how alike its frames are when the speck is taken off, a place less where they differ by more than that. */
  private doubt(view: View): void {
    const { weights } = view
    const left = this.leftOf(view)
    let [squares, count] = [NOISE_SQUARE, 1]
    for (let i = 0; i < weights.length; i++) {
      if (weights[i] === 0) continue
      squares += Math.min(MOST_SQUARE, left[i] ** 2)
      count++
    }
    const usual = squares / count + NOISE_SQUARE
    for (let i = 0; i < weights.length; i++) if (weights[i] > 0) weights[i] = 1 / (usual + left[i] ** 2 / DOUBT)
  }

  /** What the speck leaves of what two frames differ by, beside what they differ by everywhere. */
  private leftOf(view: View): Float32Array {
    const { left, rings } = this
    let [sum, total] = [0, 0]
    this.each(view, (i, x, y, u, v, apart) => {
      left[i] = apart - rings.at(x, y) + rings.at(u, v)
      sum += view.weights[i] * left[i]
      total += view.weights[i]
    })
    for (let i = 0; i < left.length; i++) left[i] -= total > 0 ? sum / total : 0
    return left
  }

  /** Each place (x, y) that counts, where the other frame shows it, (u, v), and what they differ by, with what is wide of the speck. */
  private each({ placed, apart, weights }: View, visit: (i: number, x: number, y: number, u: number, v: number, apart: number) => void): void {
    const { part, rings, every } = this
    const { a, b, u, v } = placed
    for (let row = 0; row < part.height; row += every)
      for (let column = 0; column < part.width; column += every) {
        const i = row * part.width + column
        if (weights[i] === 0) continue
        const [x, y] = [part.x + column, part.y + row]
        const [ox, oy] = [a * x - b * y + u, b * x + a * y + v]
        visit(i, x, y, ox, oy, apart[i] + rings.wideAt(x, y) - rings.wideAt(ox, oy))
      }
  }
}

/** The mean of what frames say, beside its error as they disagree: `products` over `squares` is what each says, and its square how much that counts. */
function steadiness(products: Float64Array, squares: Float64Array): number {
  const total = squares.reduce((sum, square) => sum + square, 0)
  const mean = products.reduce((sum, product) => sum + product, 0) / total
  const saying = squares.filter((square) => square > 0).length
  const apart = products.reduce((sum, product, k) => sum + (product - mean * squares[k]) ** 2, 0)
  return saying > 1 ? mean / Math.sqrt(((apart / total ** 2) * saying) / (saying - 1)) : 0
}
