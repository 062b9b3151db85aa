import { mean } from '../../statistics'
import { homographyOf, place, type Homography, type Pair } from './homography'
import type { Dot } from './dots'
import { CODE, LADDER_u, rowAt, ROWS } from './sheet'

/** A ladder is told by so many dots in a row at the least: fewer fit the code in several places. */
const LEAST_DOTS = 8
/** A dot belongs to a line within this part of the distance between dots. */
const ON_LINE = 0.3
/** Ladders are no steeper to one another than this, and stand upright in the picture within this much, in radians. */
const PARALLEL_rad = 0.3
const UPRIGHT_rad = 0.6
/** From dot to dot the distance changes by less than this part. */
const UNEVEN = 0.2
/** A small dot has 0.44 of a large one's ink. */
const LEAST_part = 0.3
/** So many of the code's places may be misread, as a part, and the next best place of the code must be worse by this part. */
const MISREAD = 0.06
const CLEARER = 0.15

interface Ladder {
  /** From one end to the other, by the number of the step. */
  dots: { dot: Dot; step: number }[]
}

interface Line {
  x: number
  y: number
  /** Direction, downwards. */
  dx: number
  dy: number
  members: Dot[]
}

/**
 * Where the sheet lies in a picture, from its dots: two lines of them are looked for, and each dot's row is read from the sizes of the
 * dots around it. Undefined where there are no two such lines.
 */
export function sheetIn(dots: Dot[]): Homography | undefined {
  const first = longestLine(dots)
  if (!first) return undefined
  const second = longestLine(
    dots.filter((dot) => !first.members.includes(dot)),
    first,
  )
  if (!second) return undefined
  const ladders = [first, second].map((line) => steps({ ...line, members: line.members.filter(sized(line.members)) }))
  if (ladders.some(({ dots: found }) => found.length < LEAST_DOTS)) return undefined
  const pairs = ladders.flatMap((ladder) => {
    const rows = rowsOf(ladder)
    return rows ? [rows] : []
  })
  if (pairs.length < 2) return undefined
  // Upside down the left ladder is on the right.
  const upside = pairs[0].upside
  if (pairs[1].upside !== upside) return undefined
  const isLeft = first.x < second.x !== upside
  const placed = pairs.flatMap(({ rows }, k) =>
    rows.map(({ dot, row }): Pair => ({ u: (k === 0) === isLeft ? -LADDER_u : LADDER_u, s: rowAt(row), x: dot.x, y: dot.y })),
  )
  return fitted(placed)
}

/** What is far smaller than most is no dot, but dirt, or the rest of one that blurred into its neighbour. */
function sized(dots: Dot[]): (dot: Dot) => boolean {
  const usual = dots.map(({ ink_px }) => ink_px).sort((a, b) => a - b)[dots.length >> 1]
  return ({ ink_px }) => ink_px > LEAST_part * usual
}

/** The homography of most dots: those that lie far from where it has them are left out, and it is found again. */
function fitted(pairs: Pair[]): Homography | undefined {
  let kept = pairs
  let found: Homography | undefined
  for (let round = 0; round < 3; round++) {
    found = homographyOf(kept)
    if (!found) return undefined
    const away = kept.map(({ u, s, x, y }) => Math.hypot(...place(found!, u, s).map((at, k) => at - [x, y][k])))
    const usual = [...away].sort((a, b) => a - b)[away.length >> 1]
    const near = kept.filter((_, k) => away[k] <= 3 * usual + 0.05)
    if (near.length === kept.length || near.length < 2 * LEAST_DOTS) break
    kept = near
  }
  return found
}

/** The line that most dots lie on, upright within reason; parallel to another, and apart from it, where one is given. */
function longestLine(dots: Dot[], beside?: Line): Line | undefined {
  let best: Line | undefined
  for (let a = 0; a < dots.length; a++)
    for (let b = 0; b < dots.length; b++) {
      const [from, to] = [dots[a], dots[b]]
      const [across, down] = [to.x - from.x, to.y - from.y]
      const size = Math.sqrt(from.ink_px)
      if (down < 3 * size || down > 14 * size || Math.abs(across) > UPRIGHT_rad * down) continue
      const long = Math.hypot(across, down)
      const [dx, dy] = [across / long, down / long]
      if (beside && Math.abs(dx * beside.dy - dy * beside.dx) > PARALLEL_rad) continue
      const members = dots.filter((dot) => Math.abs((dot.x - from.x) * dy - (dot.y - from.y) * dx) < ON_LINE * size * 2)
      if (members.length < LEAST_DOTS || members.length <= (best?.members.length ?? 0)) continue
      const [x, y] = [mean(members.map((dot) => dot.x)), mean(members.map((dot) => dot.y))]
      if (beside && Math.abs((x - beside.x) * beside.dy - (y - beside.y) * beside.dx) < 8 * size) continue
      best = { x, y, dx, dy, members }
    }
  return best
}

/** The dots of a line by the number of the step from the first one: a dot that was not found leaves its number out. */
function steps({ x, y, dx, dy, members }: Line): Ladder {
  const along = members.map((dot) => ({ dot, at: (dot.x - x) * dx + (dot.y - y) * dy })).sort((a, b) => a.at - b.at)
  const gaps = along.slice(1).map(({ at }, k) => at - along[k].at)
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1]
  // From the middle to both ends: the distance changes slowly along the slant.
  const middle = gaps.length >> 1
  const walk = ([start, ...rest]: typeof along, way: 1 | -1): Ladder['dots'] => {
    let [last, step, distance] = [start, 0, usual]
    return rest.flatMap((next) => {
      const gap = Math.abs(next.at - last.at)
      const count = Math.round(gap / distance)
      // Something that is no dot of the ladder.
      if (count < 1 || Math.abs(gap / count / distance - 1) > UNEVEN) return []
      last = next
      step += way * count
      distance = 0.7 * distance + (0.3 * gap) / count
      return [{ dot: next.dot, step }]
    })
  }
  const back = walk(along.slice(0, middle + 1).reverse(), -1)
  return { dots: [...back.reverse(), { dot: along[middle].dot, step: 0 }, ...walk(along.slice(middle), 1)] }
}

/**
 * Which row of the sheet each dot of a ladder is, from the sizes of all of them; undefined where the code is not told clearly. Towards the
 * ends dots blur and are misread: the longest stretch counts that fits in one place of the code, and in no other.
 */
function rowsOf({ dots }: Ladder): { rows: { dot: Dot; row: number }[]; upside: boolean } | undefined {
  const large = dots.map(({ dot, step }) => {
    // Against the dots around: what is farther away is smaller.
    const around = dots.filter((other) => Math.abs(other.step - step) <= 6).map((other) => other.dot.ink_px)
    const [least, most] = [Math.min(...around), Math.max(...around)]
    return dot.ink_px > Math.sqrt(least * most)
  })
  for (let count = dots.length; count >= LEAST_DOTS; count--)
    for (let from = 0; from + count <= dots.length; from++) {
      const part = dots.slice(from, from + count)
      const place = placeInCode(
        part.map(({ step }) => step - part[0].step),
        large.slice(from, from + count),
      )
      if (!place) continue
      const { upside, first } = place
      return { rows: part.map(({ dot, step }) => ({ dot, row: rowOf(first, step - part[0].step, upside) })), upside }
    }
  return undefined
}

/** The one place of the code that fits sizes at some steps; undefined where none does, or more than one. */
function placeInCode(steps: number[], large: boolean[]): { upside: boolean; first: number } | undefined {
  const range = steps.at(-1)!
  const places = [false, true].flatMap((upside) =>
    Array.from({ length: Math.max(0, ROWS - range) }, (_, first) => ({
      upside,
      first,
      wrong: steps.reduce((sum, step, k) => sum + Number(CODE[rowOf(first, step, upside)] !== large[k]), 0) / steps.length,
    })),
  )
  const [best, next] = places.sort((a, b) => a.wrong - b.wrong)
  return best && best.wrong <= MISREAD && (!next || next.wrong - best.wrong >= CLEARER) ? best : undefined
}

/** Steps count downwards in the picture; upside down the last row comes first. */
const rowOf = (first: number, step: number, upside: boolean) => (upside ? ROWS - 1 - first - step : first + step)
