import type { FrameFacts } from './frameFacts'
import { agreement } from './order'
import type { Pairs } from './pairs'

/** Runs of more frames than this hold enough that is sharp in turn to be put in order by it alone. */
const FEW = 12
/** A mean step of scale below this, as a logarithm, is too near to what registration may be wrong by. */
const LEAST_STEP = 0.001
/** Frames whose scale differs by less than this part of a mean step were focused alike, as far as it can tell. */
const ALIKE = 0.25
/** Registration that leaves two frames less alike than this has not found how they lie. */
const LEAST_CORRELATION = 0.4

/**
 * Puts a run of few frames in order by the picture's change of scale, where it breathes enough for that: leaves and
 * water change a picture as much as a step of the focus does, and a few frames in the order of what is sharp then come
 * out mixed, but the scale hardly minds. `path` holds places in `facts`, which is in the order of names: frames that
 * were focused alike keep that. Answers `path` where the scale does not tell.
 */
export function orderedByScale(path: number[], facts: FrameFacts[], pairs: Pairs): number[] {
  if (path.length < 3 || path.length > FEW) return path
  const middle = facts[facts.length >> 1]
  const found = path.map((k) => (facts[k] === middle ? { scale: 0, correlation: 1 } : against(middle, facts[k], pairs)))
  if (found.some(({ correlation }) => correlation < LEAST_CORRELATION)) return path
  const scales = new Map(path.map((k, n) => [k, found[n].scale]))
  const rising = path.toSorted((a, b) => scales.get(a)! - scales.get(b)!)
  const step = (scales.get(rising.at(-1)!)! - scales.get(rising[0])!) / (path.length - 1)
  if (step < LEAST_STEP) return path
  const alike = groups(rising, (before, k) => scales.get(k)! - scales.get(before)! < ALIKE * step)
  const namesRise = agreement(rising) >= 0
  return alike.flatMap((group) => group.sort((a, b) => (namesRise ? a - b : b - a)))
}

function against(middle: FrameFacts, facts: FrameFacts, pairs: Pairs) {
  const { motion, correlation } = pairs.between(middle, facts)
  return { scale: Math.log(motion.scale), correlation }
}

/** Splits a list where two neighbours do not belong together. */
function groups(list: number[], together: (before: number, next: number) => boolean): number[][] {
  return list.reduce<number[][]>((all, next) => {
    const last = all.at(-1)
    if (last && together(last.at(-1)!, next)) last.push(next)
    else all.push([next])
    return all
  }, [])
}
