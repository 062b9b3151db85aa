import { discPasses } from '../disc'

/** How a frame is focused, by how its bars soften along the slant. */
export interface FocusFit {
  /** Depth of the plane of focus, in pitches. */
  focus: number
  /** Diameter of the blur for each pitch of depth away from it, in pitches on the sheet. */
  widening: number
  /** How strongly each wave shows in the plane of focus. */
  sharpest: Float64Array
  /** The part of what differs between lines that the fit leaves, 0 … 1. */
  left: number
}

/** A line of the sheet: how deep it lies, in pitches, and how strongly each wave shows. */
export interface Line {
  depth: number
  strengths: Float64Array
}

/** The usual widenings that are tried first: from a slice many pitches deep to one much thinner than a pitch. */
const WIDENINGS = Array.from({ length: 25 }, (_, k) => 0.004 * 1.3 ** k)
const ROUNDS = 5

/**
 * The plane of focus and how fast blur grows on both sides of it: each line shows each wave of the bars as the plane of focus does, weaker
 * by what a disc takes from it. Blur on the sheet grows evenly with depth (a thin lens; Ray), and a disc of diameter c leaves 2 J₁(x) / x of a
 * wave of k cycles, x = π c k (Goodman, *Introduction to Fourier Optics*).
 */
export function fitFocus(lines: Line[], waves: readonly number[]): FocusFit | undefined {
  if (lines.length < 5) return undefined
  const energies = lines.map(({ strengths }) => strengths.reduce((sum, value) => sum + value * value, 0))
  const most = Math.max(...energies)
  const top = lines.filter((_, k) => energies[k] > 0.8 * most)
  let focus = top.reduce((sum, { depth }) => sum + depth, 0) / top.length
  const depths = lines.map(({ depth }) => depth)
  const [least, greatest] = [Math.min(...depths), Math.max(...depths)]
  const tried = (counted?: Counted) => (at: number, width: number) => leftOver(lines, waves, at, width, counted).left
  const roughly = tried()
  let widening = WIDENINGS.reduce((best, next) => (roughly(focus, next) < roughly(focus, best) ? next : best))
  let reach = (greatest - least) / 4
  let counted: Counted | undefined
  for (let round = 0; round < ROUNDS; round++) {
    const left = tried(counted)
    focus = lowest((at) => left(at, widening), Math.max(least, focus - reach), Math.min(greatest, focus + reach))
    widening = Math.exp(lowest((log) => left(focus, Math.exp(log)), Math.log(widening) - 0.6, Math.log(widening) + 0.6))
    reach /= 2
    counted = countedAt(lines, waves, focus, widening)
  }
  return { focus, widening, ...leftOver(lines, waves, focus, widening, counted) }
}

/** Which waves of which lines take part. */
type Counted = boolean[][]

/**
 * A wave counts in a line where much of it is left: what little comes through a wide blur hangs on the shape of the diaphragm and on the
 * lens's faults, and makes slices look deeper than they are.
 */
const LEAST_PASSED = 0.45

const countedAt = (lines: Line[], waves: readonly number[], focus: number, widening: number): Counted =>
  lines.map(({ depth }) => waves.map((cycles) => discPasses(Math.PI * widening * Math.abs(depth - focus) * cycles) >= LEAST_PASSED))

/** What a fit leaves, each wave as strong in focus as serves best. */
function leftOver(
  lines: Line[],
  waves: readonly number[],
  focus: number,
  widening: number,
  counted?: Counted,
): { left: number; sharpest: Float64Array } {
  const [product, square, total] = [0, 0, 0].map(() => new Float64Array(waves.length))
  for (let k = 0; k < lines.length; k++) {
    const { depth, strengths } = lines[k]
    const blur = Math.PI * widening * Math.abs(depth - focus)
    for (let w = 0; w < waves.length; w++) {
      if (counted && !counted[k][w]) continue
      const passed = discPasses(blur * waves[w])
      product[w] += strengths[w] * passed
      square[w] += passed * passed
      total[w] += strengths[w] * strengths[w]
    }
  }
  const sharpest = product.map((sum, w) => (square[w] > 0 ? sum / square[w] : 0))
  const all = total.reduce((sum, part) => sum + part, 0)
  const left = all - product.reduce((sum, part, w) => sum + part * sharpest[w], 0)
  return { left: all > 0 ? left / all : 1, sharpest }
}

/** Each step leaves 0.62 of what is left: a ten-thousandth after so many. */
const STEPS = 19

/** Where a function with one valley is lowest between two places: golden section. */
function lowest(of: (at: number) => number, from: number, to: number): number {
  const part = (Math.sqrt(5) - 1) / 2
  let [a, b] = [from, to]
  let [p, q] = [b - part * (b - a), a + part * (b - a)]
  let [atP, atQ] = [of(p), of(q)]
  for (let k = 0; k < STEPS; k++) {
    if (atP < atQ) {
      ;[b, q, atQ] = [q, p, atP]
      p = b - part * (b - a)
      atP = of(p)
    } else {
      ;[a, p, atP] = [p, q, atQ]
      q = a + part * (b - a)
      atQ = of(q)
    }
  }
  return (a + b) / 2
}
