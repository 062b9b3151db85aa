import type { Similarity } from '../raster'
import { weightOf, type Link } from './link'

/** How much more or less the far end moves than the near one, usually. */
const USUAL = 0.08

/**
 * Takes out of the links' shifts what is no motion of what the frames are focused on, but parallax: a camera that is
 * pushed aside sees near things move more than far ones, and every link measures at a depth of its own. Along the series
 * depths change by about as much from frame to frame, so that one number says it all: how much more a depth moves than
 * the next. It is chosen so that links agree best (least squares; the corrections of the motions, which agree with all
 * links as well as can be, are projected out: Frisch & Waugh, 1933). Where nothing was pushed aside it is nothing.
 *
 * `shifts` are what each link measures beyond what `motions` say, x and y; `depths` where it measures, in places of the
 * series; `spread` answers the corrections that agree best with such gaps. Answers what is left of the shifts, and the number,
 * `slope`, which is asked for again as the motions get better.
 */
export function withoutParallax(
  links: Link[],
  depths: number[],
  motions: Similarity[],
  shifts: number[][],
  spread: (gaps: number[]) => number[],
  before: { slope: number; reference: number },
): { shifts: number[][]; slope: number } {
  // What each frame was pushed by, as it shows at the depth that the reference is focused on.
  const pushes = (['dx_px', 'dy_px'] as const).map((axis) => motions.map((motion, k) => motion[axis] / (1 + before.slope * (k - before.reference))))
  // What a link would measure beyond the motions of what its frames are focused on, for a slope of one.
  const expected = pushes.map((push) => links.map(({ from, to }, i) => (depths[i] - to) * push[to] - (depths[i] - from) * push[from]))
  const unexplained = (gaps: number[]) => {
    const corrections = spread(gaps)
    return gaps.map((gap, i) => gap - (corrections[links[i].to] - corrections[links[i].from]))
  }
  let [agreeing, size, disagreeing] = [0, 0, 0]
  shifts.forEach((gaps, axis) => {
    const [left, parallax] = [unexplained(gaps), unexplained(expected[axis])]
    links.forEach((link, i) => {
      const weight = weightOf(link)
      agreeing += weight * left[i] * parallax[i]
      size += weight * parallax[i] ** 2
      disagreeing += weight * left[i] ** 2
    })
  })
  if (size === 0) return { shifts, slope: 0 }
  // How wrong the links are, judged by how much they would still disagree.
  const error = Math.max(0, disagreeing - agreeing ** 2 / size) / Math.max(1, 2 * (links.length - motions.length + 1))
  const usual = USUAL / Math.max(1, motions.length - 1)
  const slope = agreeing / (size + error / usual ** 2)
  return { shifts: shifts.map((gaps, axis) => gaps.map((gap, i) => gap - slope * expected[axis][i])), slope }
}
