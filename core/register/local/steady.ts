import { apply, cornerDistance_px, IDENTITY, type Similarity } from '../../raster'
import type { Prepared } from '../prepare'
import { measureLocal } from './measure'

/** Nodes whose displacement may be wrong by more than this, in px of what is looked at, do not vote. */
const CERTAIN_px = 0.6
/** Nodes farther from where a motion puts them than this, in px of what is looked at, are not of what stands still. */
const AGREES_px = 0.6
/** At first nodes so many times as far away count too, then fewer and fewer: what agrees best is found, wherever the fit begins. */
const WIDER = [16, 8, 4, 2, 1, 1]
const ROUNDS = 4
/** Fewer than this, or than this many whole votes where they count by how well they agree, tell nothing. */
const LEAST_VOTES = 8
/** Movement of the corners, in px of what is looked at, below which another round is not worth its time. */
const SETTLED_px = 0.2

/** Where a place of one frame lies in the other, both from the middle. */
interface Vote {
  from: [number, number]
  to: [number, number]
}

/**
 * The motion of what stands still, in px of the full picture, where parts moved on their own between two frames; `motion` is
 * what they were aligned by. What is in focus decides there, and where that is what moved it leads astray. So each place of
 * the picture has one vote, however much there is to see in it: displacements on a net are measured one level coarser, where
 * blurred ground tells enough, and a similarity is fitted to them (Umeyama, 1991) by what agrees (Beaton & Tukey, 1974), until
 * it stays; what counts as agreeing grows stricter (Blake & Zisserman, 1987). Where too few places tell anything, or none agree,
 * `motion` is answered as it is.
 */
export function steadied(from: Prepared, to: Prepared, motion: Similarity, fullWidth_px: number): Similarity {
  const [{ width, height }] = from.levels
  const size = [fullWidth_px, (fullWidth_px * height) / width] as const
  const coarser = ({ levels }: Prepared) => ({ levels: levels.slice(1) })
  if (from.levels.length < 2) return motion
  let best = motion
  for (let round = 0; round < ROUNDS; round++) {
    const { votes, pixel_px } = votesOf(coarser(from), coarser(to), best, size)
    const fitted = agreed(votes, AGREES_px * pixel_px)
    if (!fitted) return best
    const moved = cornerDistance_px(best, fitted, ...size)
    best = fitted
    if (moved < SETTLED_px * pixel_px) break
  }
  return best
}

function votesOf(from: Prepared, to: Prepared, motion: Similarity, [width, height]: readonly [number, number]) {
  const { net, shifts_px, certainty, pixel_px } = measureLocal(from, to, motion, width)
  const least = 1 / (CERTAIN_px * pixel_px) ** 2
  const votes: Vote[] = []
  for (let node = 0; node < net.columns * net.rows; node++) {
    const [xx, xy, yy] = certainty.subarray(3 * node, 3 * node + 3)
    // The direction that is measured worst (the lesser eigenvalue).
    if ((xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy) < least) continue
    const x = ((node % net.columns) / (net.columns - 1) - 0.5) * width
    const y = (Math.floor(node / net.columns) / (net.rows - 1) - 0.5) * height
    votes.push({ from: [x, y], to: apply(motion, x + shifts_px[2 * node], y + shifts_px[2 * node + 1]) })
  }
  return { votes, pixel_px }
}

/** The motion that most votes agree on to within so many px; nothing where too few do. */
function agreed(votes: Vote[], within_px: number): Similarity | undefined {
  let fitted = fit(
    votes,
    votes.map(() => 1),
  )
  for (const times of WIDER) {
    const motion = fitted
    if (!motion) return undefined
    fitted = fit(
      votes,
      votes.map((vote) => agreement(vote, motion, times * within_px)),
    )
  }
  return fitted
}

function agreement({ from, to }: Vote, motion: Similarity, within_px: number): number {
  const [x, y] = apply(motion, ...from)
  return Math.max(0, 1 - ((x - to[0]) ** 2 + (y - to[1]) ** 2) / within_px ** 2) ** 2
}

/** The similarity that brings the votes' places nearest to each other, by least squares; nothing where they are too few, or all in one place. */
function fit(votes: Vote[], weights: number[]): Similarity | undefined {
  const n = weights.reduce((a, b) => a + b, 0)
  if (n < LEAST_VOTES) return undefined
  const mean = (of: (v: Vote) => number) => votes.reduce((sum, v, k) => sum + weights[k] * of(v), 0) / n
  const [fx, fy, tx, ty] = [mean((v) => v.from[0]), mean((v) => v.from[1]), mean((v) => v.to[0]), mean((v) => v.to[1])]
  let [dot, cross, square] = [0, 0, 0]
  votes.forEach(({ from, to }, k) => {
    const [a, b, c, d] = [from[0] - fx, from[1] - fy, to[0] - tx, to[1] - ty]
    dot += weights[k] * (a * c + b * d)
    cross += weights[k] * (a * d - b * c)
    square += weights[k] * (a * a + b * b)
  })
  if (!(square > 0)) return undefined
  const turned = { ...IDENTITY, scale: Math.hypot(dot, cross) / square, rotation_rad: Math.atan2(cross, dot) }
  const [x, y] = apply(turned, fx, fy)
  return { ...turned, dx_px: tx - x, dy_px: ty - y }
}
