import type { Rectangle } from '../raster'
import type { Disc } from './disc'
import type { Pair, SensorField } from './field'
import { formOf, type Leftover } from './form'
import { RingEquations, Rings } from './rings'
import { difference, MOST_SQUARE, NOISE_SQUARE, type Placing } from './seen'

/** What two frames differ by in a part of the sensor. */
interface View {
  of: number
  other: number
  placed: Placing
  /** The places of the part that both show, one after the other: of each its number in the part, */
  places: Int32Array
  /** where it lies on the sensor, x and y, and where the other frame shows it, */
  positions: Float64Array
  /** what they differ by there, and how much it counts. */
  apart: Float32Array
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

/** Which pairs tell, by how many frames the other comes later. */
const TELLS = {
  all: () => true,
  // Frames far from each other differ in focus as well.
  near: (later: number) => Math.abs(later) <= 2,
  // The other way round they tell nearly the same again.
  once: (later: number) => later > 0,
}

/** A speck looked at closely: how dark it is so far from its middle, by all pairs of frames at once. */
export class CloseLook {
  readonly rings: Rings
  private readonly views: View[]
  /** Of the view that is looked at: what the speck leaves of each place, */
  private readonly left: Float32Array
  /** and how far from the middle it lies in either frame. */
  private readonly away: Float64Array
  private looks = 0

  constructor(
    private readonly field: SensorField,
    readonly part: Rectangle,
    disc: Disc,
    reach_px: number,
    /** Only every so manyth place, across and down. */
    private readonly every: number,
    told: keyof typeof TELLS = 'all',
  ) {
    this.rings = new Rings(disc.x, disc.y, reach_px, field.wide_px, RING_px * every)
    const pairs = field.pairs.filter(({ of, other }) => TELLS[told](other - of))
    const all = new Float32Array(part.width * part.height)
    this.views = pairs.map((pair) => {
      difference(field.logsOf(pair.of), field.logsOf(pair.other), pair.full, part, all)
      return this.viewOf(pair, all)
    })
    const most = this.views.reduce((high, { places }) => Math.max(high, places.length), 0)
    this.left = new Float32Array(most)
    this.away = new Float64Array(2 * most)
  }

  /** So many rounds more: each solves for the profile and the middle, and weighs anew by what is left (weights of Cauchy). */
  settle(rounds: number): void {
    for (let round = 0; round < rounds; round++) {
      const equations = new RingEquations(this.rings)
      for (const view of this.views) {
        this.goTo(view)
        if (this.looks > 0) this.doubt(view)
        this.enter(view, equations)
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
      this.goTo(view)
      for (let i = 0; i < view.weights.length; i++) {
        const w = view.weights[i]
        const apart = this.apartAt(view, i)
        const [here, there] = [rings.valueAt(this.away[2 * i]), rings.valueAt(this.away[2 * i + 1])]
        const expected = here - there
        total += w
        sum += w * apart
        sumExpected += w * expected
        product += w * expected * apart
        square += w * expected * expected
        if (here > least && there > least) continue
        all += w * apart * apart
        rest += w * (apart - expected) ** 2
      }
      if (total === 0) continue
      products[view.of] += product - (sum * sumExpected) / total
      squares[view.of] += square - (sumExpected * sumExpected) / total
    }
    return { explained: all > 0 ? 1 - rest / all : 0, steady: steadiness(products, squares) }
  }

  /** What the speck has of a form of its own beside its rings, place by place of the part. */
  form(): Float32Array {
    const halves: [Leftover[], Leftover[]] = [[], []]
    const onPart = ({ places }: View, values: Float32Array) => {
      const all = new Float32Array(this.part.width * this.part.height)
      places.forEach((place, i) => (all[place] = values[i]))
      return all
    }
    for (const view of this.views) {
      this.goTo(view)
      this.doubt(view)
      const left = this.leftOf(view)
      // Frames that are compared either way are in one half.
      halves[Math.min(view.of, view.other) % 2].push({ placed: view.placed, left: onPart(view, left), weights: onPart(view, view.weights) })
    }
    return formOf(halves, this.part, this.rings)
  }

  /** Takes of a pair of frames what both show of the part, and how much it counts. */
  private viewOf({ of, other, full, weights: cells }: Pair, all: Float32Array): View {
    const { field, part, every } = this
    const places: number[] = []
    const told: number[] = []
    for (let row = 0; row < part.height; row += every)
      for (let column = 0; column < part.width; column += every) {
        const place = row * part.width + column
        const weight = Number.isNaN(all[place]) ? 0 : field.weightAt(cells, part.x + column, part.y + row)
        if (weight === 0) continue
        places.push(place)
        told.push(weight)
      }
    const positions = new Float64Array(4 * places.length)
    const apart = new Float32Array(places.length)
    for (let i = 0; i < places.length; i++) {
      const [x, y] = [part.x + (places[i] % part.width), part.y + Math.floor(places[i] / part.width)]
      positions[4 * i] = x
      positions[4 * i + 1] = y
      positions[4 * i + 2] = full.a * x - full.b * y + full.u
      positions[4 * i + 3] = full.b * x + full.a * y + full.v
      apart[i] = all[places[i]]
    }
    return { of, other, placed: full, places: Int32Array.from(places), positions, apart, weights: Float32Array.from(told) }
  }

  /** Looks at a view: how far its places lie from where the middle is thought now. */
  private goTo({ positions }: View): void {
    const { away, rings } = this
    for (let k = 0; 2 * k < positions.length; k++) away[k] = rings.away_px(positions[2 * k], positions[2 * k + 1])
  }

  /** What the frames of the view that is looked at differ by, with what is wide of the speck. */
  private apartAt({ apart }: View, i: number): number {
    return apart[i] + this.rings.wideAt(this.away[2 * i]) - this.rings.wideAt(this.away[2 * i + 1])
  }

  private enter(view: View, equations: RingEquations): void {
    const { away, rings } = this
    const { positions, weights } = view
    for (let i = 0, p = 0; i < weights.length; i++, p += 4)
      equations.add(
        away[2 * i],
        positions[p] - rings.x,
        positions[p + 1] - rings.y,
        away[2 * i + 1],
        positions[p + 2] - rings.x,
        positions[p + 3] - rings.y,
        this.apartAt(view, i),
        weights[i],
      )
    equations.endPair()
  }

  /** Weighs a view anew: as a whole by how alike its frames are when the speck is taken off, a place less where they differ by more than that. */
  private doubt(view: View): void {
    const { weights } = view
    const left = this.leftOf(view)
    let squares = NOISE_SQUARE
    for (let i = 0; i < weights.length; i++) squares += Math.min(MOST_SQUARE, left[i] * left[i])
    const usual = squares / (weights.length + 1) + NOISE_SQUARE
    for (let i = 0; i < weights.length; i++) weights[i] = 1 / (usual + (left[i] * left[i]) / DOUBT)
  }

  /** What the speck leaves of what two frames differ by, beside what they differ by everywhere. */
  private leftOf(view: View): Float32Array {
    const { left, rings, away } = this
    const { weights } = view
    let [sum, total] = [0, 0]
    for (let i = 0; i < weights.length; i++) {
      left[i] = this.apartAt(view, i) - rings.valueAt(away[2 * i]) + rings.valueAt(away[2 * i + 1])
      sum += weights[i] * left[i]
      total += weights[i]
    }
    for (let i = 0; i < weights.length; i++) left[i] -= total > 0 ? sum / total : 0
    return left
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
