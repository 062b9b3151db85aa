import { solve } from '../register/solve'

/** How much a bend of the profile counts, beside what frames that differ by noise alone say of a pixel. */
const BEND = 2000
/** So much holds the middle to its place: what a few rims say moves it. */
const PLACE = 100
/** The middle moves by so much in a round, at the most. */
const MOST_MOVE_px = 1
/** A normal distribution's fall, in steps of its deviation, as far as it matters. */
const [FALL_STEPS, FALL_ENDS] = [64, 4]
const FALL = Float64Array.from({ length: FALL_STEPS * FALL_ENDS + 1 }, (_, k) => Math.exp(-((k / FALL_STEPS) ** 2) / 2))
/** Entries that one pair of places has in a row: two rings for either place, and the middle's two ways. */
const MOST_ENTRIES = 6

/**
 * What a speck takes away as a logarithm of the light, alike all around a middle: straight between rings, nothing beyond the last. What is
 * wider than `wide_px` (a deviation) is left out of the frames, of the speck as well; `wideAt` tells how much of it.
 */
export class Rings {
  readonly values: Float64Array
  private mass = 0

  constructor(
    public x: number,
    public y: number,
    reach_px: number,
    private readonly wide_px: number,
    /** Rings are so far apart; between two of them the profile is straight. */
    readonly step_px: number,
  ) {
    this.values = new Float64Array(Math.ceil(reach_px / step_px) + 1)
  }

  /** How many rings are sought: the last is 0. */
  get count(): number {
    return this.values.length - 1
  }

  at(x: number, y: number): number {
    return this.valueAt(this.away_px(x, y))
  }

  /** How far a place lies from the middle. Not hypot: it takes ten times as long. */
  away_px(x: number, y: number): number {
    return Math.sqrt((x - this.x) * (x - this.x) + (y - this.y) * (y - this.y))
  }

  /** What it takes away so far from its middle. */
  valueAt(away_px: number): number {
    const r = away_px / this.step_px
    const k = Math.floor(r)
    return k < this.count ? this.values[k] + (r - k) * (this.values[k + 1] - this.values[k]) : 0
  }

  /** What leaving out what is wide takes away of the speck so far from its middle. */
  wideAt(away_px: number): number {
    // So wide that its value a fraction of a px beside is the same; reckoning each takes as long as all else.
    return this.mass * FALL[Math.round(FALL_STEPS * Math.min(FALL_ENDS, away_px / this.wide_px))]
  }

  /** How dark its middle is: the mean within a distance. */
  level(within_px: number): number {
    const some = this.values.subarray(0, Math.max(1, Math.ceil(within_px / this.step_px)))
    return -some.reduce((sum, value) => sum + value, 0) / some.length
  }

  /** Where it is half as dark as its middle. */
  halfRadius(level: number): number {
    const first = this.values.findIndex((value, k) => k > 0 && value > -level / 2)
    const [before, after] = [this.values[first - 1] ?? 0, this.values[first] ?? 0]
    return this.step_px * (first - 1 + (after > before ? (-level / 2 - before) / (after - before) : 0))
  }

  /** Takes over what was solved for; returns by how much the profile changed, and where its middle moves, as much as the rim then changes. */
  take(solved: Float64Array): number {
    const { values, count } = this
    const steepest = values.reduce((most, _, k) => (k < count ? Math.max(most, Math.abs(this.slope(k))) : most), 0)
    const changed = values.reduce((most, value, k) => (k < count ? Math.max(most, Math.abs(solved[k] - value)) : most), 0)
    values.set(solved.subarray(0, count))
    this.x += Math.max(-MOST_MOVE_px, Math.min(MOST_MOVE_px, solved[count]))
    this.y += Math.max(-MOST_MOVE_px, Math.min(MOST_MOVE_px, solved[count + 1]))
    const sum = values.reduce((all, value, k) => all + value * (k === 0 ? 1 / 6 : k), 0)
    this.mass = (sum * this.step_px ** 2) / this.wide_px ** 2
    return Math.max(changed, steepest * Math.hypot(solved[count], solved[count + 1]))
  }

  /** The profile's slope between a ring and the next, a px. */
  slope(k: number): number {
    return (this.values[k + 1] - this.values[k]) / this.step_px
  }
}

/** The normal equations for the rings and for how far their middle lies beside where it was thought. */
export class RingEquations {
  /** One half of the matrix, row by row: the other is the same. */
  private readonly matrix: Float64Array
  private readonly right: Float64Array
  private readonly size: number
  /** Of one pair of frames: how much it counts, what it has in all, and its sums for each unknown. */
  private weight = 0
  private sum = 0
  private readonly sums: Float64Array
  private readonly places = new Int32Array(MOST_ENTRIES)
  private readonly entries = new Float64Array(MOST_ENTRIES)

  constructor(private readonly rings: Rings) {
    this.size = rings.count + 2
    this.matrix = new Float64Array(this.size * this.size)
    this.right = new Float64Array(this.size)
    this.sums = new Float64Array(this.size)
  }

  /**
   * What two places differ by, `value`, which counts `weight`. Of each is told how far it lies from the middle, and where from there: first of
   * the one whose frame has more, then of the other.
   */
  add(
    away_px: number,
    dx_px: number,
    dy_px: number,
    otherAway_px: number,
    otherDx_px: number,
    otherDy_px: number,
    value: number,
    weight: number,
  ): void {
    this.weight += weight
    this.sum += weight * value
    const { places, entries, matrix, right, sums, size } = this
    const first = this.enter(0, away_px, 1)
    const count = this.enter(first, otherAway_px, -1)
    if (count === 0) return
    const [slope, otherSlope] = [this.slopeAt(away_px), this.slopeAt(otherAway_px)]
    places[count] = size - 2
    entries[count] = otherSlope * otherDx_px - slope * dx_px
    places[count + 1] = size - 1
    entries[count + 1] = otherSlope * otherDy_px - slope * dy_px
    for (let p = 0; p < count + 2; p++) {
      const place = places[p]
      const entry = weight * entries[p]
      matrix[place * size + place] += entry * entries[p]
      for (let q = p + 1; q < count + 2; q++) {
        const other = places[q]
        const product = entry * entries[q]
        // Both places may lie at one ring.
        if (other === place) matrix[place * size + place] += 2 * product
        else matrix[other > place ? place * size + other : other * size + place] += product
      }
      right[place] += entry * value
      sums[place] += entry
    }
  }

  /** Ends a pair of frames, whose brightness may differ by some unknown: only what places differ by among themselves counts. */
  endPair(): void {
    const { matrix, right, sums, size } = this
    if (this.weight > 0)
      for (let p = 0; p < size; p++) {
        const part = sums[p] / this.weight
        if (part === 0) continue
        for (let q = p; q < size; q++) matrix[p * size + q] -= part * sums[q]
        right[p] -= part * this.sum
      }
    this.weight = this.sum = 0
    sums.fill(0)
  }

  /** The rings' values and the middle's move; undefined where nothing tells them. The middle stays in a first round: without a profile nothing moves it. */
  solved(first: boolean): Float64Array | undefined {
    const { matrix, right, size } = this
    const { count, step_px } = this.rings
    const bending = BEND / step_px ** 3
    const bend = (...terms: [place: number, times: number][]) => {
      const inside = terms.filter(([place]) => place < count)
      for (const [p, f] of inside) for (const [q, g] of inside) if (q >= p) matrix[p * size + q] += bending * f * g
    }
    bend([0, 1], [1, -1])
    for (let k = 1; k < count; k++) bend([k - 1, 1], [k, -2], [k + 1, 1])
    for (const p of [count, count + 1]) matrix[p * size + p] += first ? 1e12 : PLACE
    const rows = Array.from(right, (value, p) =>
      Float64Array.from({ length: size + 1 }, (_, q) => (q === size ? value : matrix[Math.min(p, q) * size + Math.max(p, q)])),
    )
    return solve(rows)
  }

  /** Enters the rings on both sides of a place, from entry `at` on; returns how many entries there are then. */
  private enter(at: number, away_px: number, sign: number): number {
    const { rings, places, entries } = this
    const r = away_px / rings.step_px
    const k = Math.floor(r)
    if (k >= rings.count) return at
    places[at] = k
    entries[at] = sign * (1 - (r - k))
    if (k + 1 === rings.count) return at + 1
    places[at + 1] = k + 1
    entries[at + 1] = sign * (r - k)
    return at + 2
  }

  /** How steep the profile is so far from the middle, for each px of that way. */
  private slopeAt(away_px: number): number {
    const k = Math.floor(away_px / this.rings.step_px)
    return k < this.rings.count && away_px > 0 ? this.rings.slope(k) / away_px : 0
  }
}
