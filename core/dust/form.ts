import type { Rectangle } from '../raster'
import type { Rings } from './rings'
import type { Placing } from './seen'

/** What two frames differ by in a part of the sensor, when what is round of a speck is taken off. */
export interface Leftover {
  placed: Placing
  left: Float32Array
  /** How much each place counts; 0 where the frames do not show the same. */
  weights: Float32Array
}

const ROUNDS = 25
/** Halves agree on so much where a speck is round, in squares, beside what its rings have: texture that moves little misleads both alike. */
const DOUBTED = 0.04
/**
 * Each round goes on by this part of the round before (Polyak, 1964): what is as wide as a speck, which alone takes hundreds of rounds,
 * settles as many times faster as 1 − this goes into 1. Substitution stays stable below 1.
 */
const MOMENTUM = 0.8

/**
 * What a speck has of a form of its own, as a logarithm, place by place of a part: what its rings leave is solved for by each half of the
 * pairs alone, by repeated substitution, and believed as far as the halves agree.
 */
export function formOf(halves: [Leftover[], Leftover[]], part: Rectangle, rings: Rings): Float32Array {
  const [one, other] = halves.map((half) => withoutRings(substituted(half, part), part, rings))
  let [both, round] = [0, 0]
  const mean = one.map((value, i) => (value + other[i]) / 2)
  for (let i = 0; i < mean.length; i++) {
    both += one[i] * other[i]
    round += rings.at(part.x + (i % part.width), part.y + Math.floor(i / part.width)) ** 2
  }
  const believed = both > 0 ? Math.max(0, 1 - (DOUBTED * round) / both) : 0
  return mean.map((value) => believed * value)
}

function substituted(half: Leftover[], part: Rectangle): Float32Array {
  const size = part.width * part.height
  // One more place stands for all beside the part: there is no speck.
  let [now, before] = [new Float32Array(size + 1), new Float32Array(size + 1)]
  const [fixed, weight] = [new Float32Array(size), new Float32Array(size)]
  const places = half.map(({ placed, left, weights }) => {
    for (let i = 0; i < size; i++) {
      if (weights[i] === 0) continue
      fixed[i] += weights[i] * left[i]
      weight[i] += weights[i]
    }
    return placesSeen(placed, part)
  })
  for (let round = 0; round < ROUNDS; round++) {
    const sum = fixed.slice()
    half.forEach(({ weights }, k) => {
      for (let i = 0; i < size; i++) sum[i] += weights[i] * now[places[k][i]]
    })
    const next = new Float32Array(size + 1)
    for (let i = 0; i < size; i++) if (weight[i] > 0) next[i] = sum[i] / weight[i] + MOMENTUM * (now[i] - before[i])
    ;[before, now] = [now, next]
  }
  return now.slice(0, size)
}

/** The place of a part that another frame shows at each, or the one behind its last where that lies beside it. */
function placesSeen({ a, b, u, v }: Placing, { x, y, width, height }: Rectangle): Int32Array {
  const places = new Int32Array(width * height)
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const [px, py] = [x + column, y + row]
      const [ox, oy] = [Math.round(a * px - b * py + u) - x, Math.round(b * px + a * py + v) - y]
      places[i] = ox >= 0 && oy >= 0 && ox < width && oy < height ? oy * width + ox : width * height
    }
  return places
}

/** Without what is alike all around, which the rings tell better, and nothing beyond them. */
function withoutRings(values: Float32Array, { x, y, width }: Rectangle, rings: Rings): Float32Array {
  const ringOf = Int32Array.from(values, (_, i) => Math.floor(Math.hypot(x + (i % width) - rings.x, y + Math.floor(i / width) - rings.y)))
  const beyond = Math.floor(rings.count * rings.step_px)
  const [sums, counts] = [new Float64Array(beyond), new Float64Array(beyond)]
  ringOf.forEach((ring, i) => {
    if (ring >= beyond) return
    sums[ring] += values[i]
    counts[ring]++
  })
  return values.map((value, i) => (ringOf[i] < beyond ? value - sums[ringOf[i]] / counts[ringOf[i]] : 0))
}
