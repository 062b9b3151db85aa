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
/** Entries that one pair of places has in a row: two rings and the middle's two ways, for either place. */
const MOST_ENTRIES = 8

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
    // Not hypot: it takes ten times as long.
    const r = Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2) / this.step_px
    const k = Math.floor(r)
    return k < this.count ? this.values[k] + (r - k) * (this.values[k + 1] - this.values[k]) : 0
  }

  /** What leaving out what is wide takes away of the speck at a place. */
  wideAt(x: number, y: number): number {
    if (this.mass === 0) return 0
    // So wide that its value a fraction of a px beside is the same; reckoning each takes as long as all else.
    const k = Math.round(FALL_STEPS * Math.min(FALL_ENDS, Math.sqrt((x - this.x) ** 2 + (y - this.y) ** 2) / this.wide_px))
    return this.mass * FALL[k]
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
  private readonly rows: Float64Array[]
  /** Of one pair of frames: how much it counts, what it has in all, and its sums for each unknown. */
  private weight = 0
  private sum = 0
  private readonly sums: Float64Array
  private readonly places = new Int32Array(MOST_ENTRIES)
  private readonly entries = new Float64Array(MOST_ENTRIES)
  private count = 0

  constructor(private readonly rings: Rings) {
    const size = rings.count + 2
    this.rows = Array.from({ length: size }, () => new Float64Array(size + 1))
    this.sums = new Float64Array(size)
  }

  /** What two places differ by, (x, y) and (u, v): `value`, which counts `weight`. */
  add(x: number, y: number, u: number, v: number, value: number, weight: number): void {
    this.count = 0
    this.enter(x, y, 1)
    this.enter(u, v, -1)
    this.weight += weight
    this.sum += weight * value
    for (let p = 0; p < this.count; p++) {
      const row = this.rows[this.places[p]]
      const entry = weight * this.entries[p]
      // One half tells the other.
      for (let q = 0; q < this.count; q++) if (this.places[q] >= this.places[p]) row[this.places[q]] += entry * this.entries[q]
      row[row.length - 1] += entry * value
      this.sums[this.places[p]] += entry
    }
  }

  /** Ends a pair of frames, whose brightness may differ by some unknown: only what places differ by among themselves counts. */
  endPair(): void {
    if (this.weight > 0)
      this.rows.forEach((row, p) => {
        const part = this.sums[p] / this.weight
        if (part === 0) return
        this.sums.forEach((sum, q) => (row[q] -= q < p ? 0 : part * sum))
        row[row.length - 1] -= part * this.sum
      })
    this.weight = this.sum = 0
    this.sums.fill(0)
  }

  /** The rings' values and the middle's move; undefined where nothing tells them. The middle stays in a first round: without a profile nothing moves it. */
  solved(first: boolean): Float64Array | undefined {
    const { count, step_px } = this.rings
    const bending = BEND / step_px ** 3
    const bend = (...terms: [place: number, times: number][]) => {
      const inside = terms.filter(([place]) => place < count)
      for (const [p, f] of inside) for (const [q, g] of inside) if (q >= p) this.rows[p][q] += bending * f * g
    }
    bend([0, 1], [1, -1])
    for (let k = 1; k < count; k++) bend([k - 1, 1], [k, -2], [k + 1, 1])
    for (const p of [count, count + 1]) this.rows[p][p] += first ? 1e12 : PLACE
    this.rows.forEach((row, p) => this.rows.forEach((other, q) => (row[q] = q < p ? other[p] : row[q])))
    return solve(this.rows)
  }

  private enter(x: number, y: number, sign: number): void {
    const { rings } = this
    const [dx, dy] = [x - rings.x, y - rings.y]
    const away_px = Math.sqrt(dx * dx + dy * dy)
    const k = Math.floor(away_px / rings.step_px)
    if (k >= rings.count) return
    const part = away_px / rings.step_px - k
    this.note(k, sign * (1 - part))
    if (k + 1 < rings.count) this.note(k + 1, sign * part)
    if (away_px === 0) return
    const slope = rings.slope(k) / away_px
    this.note(rings.count, -sign * slope * dx)
    this.note(rings.count + 1, -sign * slope * dy)
  }

  private note(place: number, entry: number): void {
    this.places[this.count] = place
    this.entries[this.count++] = entry
  }
}
