import { membrane, type Patch } from './membrane'

/** A patch is so many px across, and its middle so far from its edge. */
const SIDE = 7
const HALF = 3
/** At each size: how often patches are matched and the hole is drawn anew, and how often each match is bettered. */
const ROUNDS = 4
const SEARCHES = 3
/** By so much less a patch counts, a pixel farther into the hole (Wexler et al.). */
const FAITH = 1.3
/** The hole is at most so wide at the coarsest size. */
const COARSEST_px = 12

/**
 * Fills a hole so that the texture around it goes on: every patch that touches the hole looks for the most alike one outside of it, and
 * the patches found vote for its pixels, from coarse to fine (Wexler, Shechtman & Irani, 2007; matches by Barnes et al., "PatchMatch",
 * 2009). What remains of a seam is evened by a membrane. `samples` are changed inside the hole only. The same input gives the same bytes.
 */
export function heal(patch: Patch, hole: Uint8Array): void {
  const { width, height, samples } = patch
  if (!hole.includes(1) || !hole.includes(0)) return
  const { patch: filled, said } = fill({ width, height, samples: samples.slice() }, hole)
  const even = said && seam(patch, said, hole)
  for (let i = 0; i < hole.length; i++)
    if (hole[i])
      for (let c = 0; c < 3; c++) samples[3 * i + c] = Math.min(1, Math.max(0, filled.samples[3 * i + c] + (even?.samples[3 * i + c] ?? 0)))
}

function fill(patch: Patch, hole: Uint8Array): { patch: Patch; said?: Said } {
  const { width, height } = patch
  const wide = holeWidth(hole, width)
  const small = Math.min(width, height) < 4 * SIDE
  let matches: Int32Array | undefined
  if (wide > COARSEST_px && !small) {
    const [coarse, coarseHole] = halve(patch, hole)
    takeFrom(patch, hole, fill(coarse, coarseHole).patch)
  } else diffuse(patch, hole)
  const random = numbers(width * 7919 + height)
  const targets = touching(hole, width, height)
  const free = sources(hole, width, height)
  if (free.length === 0) return { patch }
  const depth = depthInto(hole, width)
  let said: Said | undefined
  for (let round = 0; round < ROUNDS; round++) {
    matches = match(patch, targets, free, matches, random)
    said = listen(patch, targets, matches, depth)
    take(patch, hole, said)
  }
  return { patch, said }
}

/** Middles of the patches that touch the hole and lie within the picture. */
function touching(hole: Uint8Array, width: number, height: number): Int32Array {
  const list: number[] = []
  for (let y = HALF; y < height - HALF; y++) for (let x = HALF; x < width - HALF; x++) if (holds(hole, width, x, y)) list.push(y * width + x)
  return Int32Array.from(list)
}

/** Middles of the patches that are whole outside of the hole. */
function sources(hole: Uint8Array, width: number, height: number): Int32Array {
  const list: number[] = []
  for (let y = HALF; y < height - HALF; y++) for (let x = HALF; x < width - HALF; x++) if (!holds(hole, width, x, y)) list.push(y * width + x)
  return Int32Array.from(list)
}

function holds(hole: Uint8Array, width: number, x: number, y: number): boolean {
  for (let dy = -HALF; dy <= HALF; dy++) for (let dx = -HALF; dx <= HALF; dx++) if (hole[(y + dy) * width + x + dx]) return true
  return false
}

/** For each target the most alike source: by chance at first, then from its neighbours, then around the best so far. */
function match(patch: Patch, targets: Int32Array, free: Int32Array, before: Int32Array | undefined, random: () => number): Int32Array {
  const { width, height } = patch
  const isFree = new Uint8Array(width * height)
  for (const at of free) isFree[at] = 1
  const place = new Int32Array(width * height).fill(-1)
  targets.forEach((at, k) => (place[at] = k))
  const best = before?.slice() ?? Int32Array.from(targets, () => free[Math.floor(random() * free.length)])
  const costs = Float32Array.from(targets, (at, k) => distance(patch, at, best[k], Infinity))
  const tryAt = (k: number, source: number) => {
    if (source < 0 || !isFree[source] || source === best[k]) return
    const cost = distance(patch, targets[k], source, costs[k])
    if (cost < costs[k]) {
      costs[k] = cost
      best[k] = source
    }
  }
  for (let search = 0; search < SEARCHES; search++) {
    const step = search & 1 ? 1 : -1
    for (let n = 0; n < targets.length; n++) {
      const k = search & 1 ? targets.length - 1 - n : n
      for (const beside of [step, step * width]) {
        const neighbour = place[targets[k] + beside]
        if (neighbour >= 0) tryAt(k, best[neighbour] - beside)
      }
      for (let reach = Math.max(width, height); reach >= 1; reach /= 2) {
        const x = (best[k] % width) + Math.round((2 * random() - 1) * reach)
        const y = Math.floor(best[k] / width) + Math.round((2 * random() - 1) * reach)
        if (x >= HALF && y >= HALF && x < width - HALF && y < height - HALF) tryAt(k, y * width + x)
      }
    }
  }
  return best
}

/** Squared difference of two patches; given up on where it is above `most`. */
function distance({ width, samples }: Patch, a: number, b: number, most: number): number {
  let sum = 0
  for (let dy = -HALF; dy <= HALF; dy++) {
    let i = 3 * (a + dy * width - HALF)
    let j = 3 * (b + dy * width - HALF)
    for (let n = 0; n < 3 * SIDE; n++, i++, j++) {
      const d = samples[i] - samples[j]
      sum += d * d
    }
    if (sum > most) return sum
  }
  return sum
}

/** How far into the hole each pixel lies, in city blocks; 0 outside (Rosenfeld & Pfaltz, 1966). */
function depthInto(hole: Uint8Array, width: number): Int32Array {
  const depth = Int32Array.from(hole, (inside) => (inside ? 1 << 20 : 0))
  for (let i = 0; i < depth.length; i++) {
    if (i % width > 0) depth[i] = Math.min(depth[i], depth[i - 1] + 1)
    if (i >= width) depth[i] = Math.min(depth[i], depth[i - width] + 1)
  }
  for (let i = depth.length - 1; i >= 0; i--) {
    if (i % width < width - 1) depth[i] = Math.min(depth[i], depth[i + 1] + 1)
    if (i < depth.length - width) depth[i] = Math.min(depth[i], depth[i + width] + 1)
  }
  return depth
}

/** What the patches over each pixel say of it, summed, the more alike ones counting more; of the rim as well as of the hole. */
interface Said {
  said: Float32Array
  weights: Float32Array
}

function listen(patch: Patch, targets: Int32Array, matches: Int32Array, depth: Int32Array): Said {
  const { width, samples } = patch
  const said = new Float32Array(samples.length)
  const weights = new Float32Array(depth.length)
  const costs = Float32Array.from(targets, (at, k) => distance(patch, at, matches[k], Infinity))
  const usual = Math.max(1e-6, [...costs].sort((a, b) => a - b)[costs.length >> 1])
  targets.forEach((at, k) => {
    // What lies nearer to the rim rests on more that is known.
    const weight = FAITH ** -depth[at] * (Math.exp(-costs[k] / (2 * usual)) + 1e-6)
    for (let dy = -HALF; dy <= HALF; dy++)
      for (let dx = -HALF; dx <= HALF; dx++) {
        const to = at + dy * width + dx
        const from = matches[k] + dy * width + dx
        weights[to] += weight
        for (let c = 0; c < 3; c++) said[3 * to + c] += weight * samples[3 * from + c]
      }
  })
  return { said, weights }
}

/** The pixels of the hole become what is said of them. */
function take({ samples }: Patch, hole: Uint8Array, { said, weights }: Said): void {
  for (let i = 0; i < hole.length; i++) if (hole[i] && weights[i] > 0) for (let c = 0; c < 3; c++) samples[3 * i + c] = said[3 * i + c] / weights[i]
}

/** How far what the patches say of the rim lies off what is there, carried smoothly into the hole. */
function seam(picture: Patch, { said, weights }: Said, hole: Uint8Array): Patch {
  const { width, height, samples } = picture
  const known = { width, height, samples: new Float32Array(width * height * 3) }
  const isKnown = Uint8Array.from(weights, (weight, i) => Number(!hole[i] && weight > 0))
  for (let i = 0; i < hole.length; i++)
    if (isKnown[i]) for (let c = 0; c < 3; c++) known.samples[3 * i + c] = samples[3 * i + c] - said[3 * i + c] / weights[i]
  return membrane(known, isKnown)
}

/** A smooth filling to begin with. */
function diffuse(patch: Patch, hole: Uint8Array): void {
  const smooth = membrane(
    patch,
    hole.map((inside) => 1 - inside),
  )
  for (let i = 0; i < hole.length; i++) if (hole[i]) for (let c = 0; c < 3; c++) patch.samples[3 * i + c] = smooth.samples[3 * i + c]
}

function takeFrom(patch: Patch, hole: Uint8Array, coarse: Patch): void {
  for (let i = 0; i < hole.length; i++) {
    if (!hole[i]) continue
    const y = Math.min(coarse.height - 1, Math.floor(i / patch.width) >> 1)
    const from = 3 * (y * coarse.width + Math.min(coarse.width - 1, (i % patch.width) >> 1))
    for (let c = 0; c < 3; c++) patch.samples[3 * i + c] = coarse.samples[from + c]
  }
}

/** Half the size; a pixel is a hole where any of its four is. */
function halve({ width, height, samples }: Patch, hole: Uint8Array): [Patch, Uint8Array] {
  const [w, h] = [width >> 1, height >> 1]
  const out = new Float32Array(w * h * 3)
  const outHole = new Uint8Array(w * h)
  for (let y = 0, o = 0; y < h; y++)
    for (let x = 0; x < w; x++, o++) {
      const four = [0, 1, width, width + 1].map((d) => 2 * y * width + 2 * x + d)
      outHole[o] = Number(four.some((i) => hole[i]))
      for (let c = 0; c < 3; c++) out[3 * o + c] = four.reduce((sum, i) => sum + samples[3 * i + c], 0) / 4
    }
  return [{ width: w, height: h, samples: out }, outHole]
}

/** The shorter side of what the hole spans: how far it is across. */
function holeWidth(hole: Uint8Array, width: number): number {
  let [left, right, top, bottom] = [Infinity, -1, Infinity, -1]
  hole.forEach((inside, i) => {
    if (!inside) return
    const [x, y] = [i % width, Math.floor(i / width)]
    left = Math.min(left, x)
    right = Math.max(right, x)
    top = Math.min(top, y)
    bottom = Math.max(bottom, y)
  })
  return Math.min(right - left, bottom - top) + 1
}

/** Numbers from 0 to 1 that look random and are the same each time (xorshift, Marsaglia 2003). */
function numbers(seed: number): () => number {
  let state = seed | 1
  return () => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    return (state >>> 0) / 2 ** 32
  }
}
