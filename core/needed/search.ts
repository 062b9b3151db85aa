import type { Loss } from './loss'
import { evenly, everyNth } from './subsets'

/** A series fused from some of its frames, against all of them. */
export interface Subset extends Loss {
  /** How many times as far apart its frames are. */
  every: number
  /** Indices of its frames, in focus order. */
  frames: number[]
}

export interface Needed {
  /** The fewest frames last. */
  subsets: Subset[]
  /** Of those whose loss does not show the one with the fewest frames; absent where all were needed. */
  fewest?: Subset
}

/** Fewer frames than this are no series. */
const LEAST = 2
/** Between two subsets of the ladder it is looked once or twice for the fewest frames. */
const TRIES = 2

/**
 * The fewest frames of a series whose picture shows no loss. Every second, third, … frame, until it shows; then between the last two.
 * `look` fuses such frames and says what is lost.
 */
export async function framesNeeded(count: number, look: (frames: number[]) => Promise<Loss>): Promise<Needed> {
  const subsets: Subset[] = []
  const told = async (frames: number[], every: number) => {
    const subset = { every, frames, ...(await look(frames)) }
    subsets.push(subset)
    return subset
  }
  let [enough, tooFew] = [count, LEAST - 1]
  for (let every = 2; Math.ceil(count / every) >= LEAST; every++) {
    const frames = everyNth(count, every)
    // Far along, one step more often changes nothing.
    if (frames.length >= enough) continue
    const { visible } = await told(frames, every)
    if (visible) {
      tooFew = frames.length
      break
    }
    enough = frames.length
  }
  for (let k = 0; k < TRIES && enough - tooFew > 1; k++) {
    const kept = (enough + tooFew) >> 1
    const { visible } = await told(evenly(count, kept), Number((count / kept).toFixed(2)))
    if (visible) tooFew = kept
    else enough = kept
  }
  subsets.sort((a, b) => b.frames.length - a.frames.length)
  return { subsets, fewest: subsets.filter(({ visible }) => !visible).at(-1) }
}
