import { say, type Sentence } from '../words'
import { splitCard, type CardFrame, type CardSplit } from './split'

/**
 * Splits a card's frames, given in the order of their names, into series. Where times would tear apart what names keep together, as of two
 * cameras that shot at once, the names say the order.
 */
export function splitAsTaken(frames: CardFrame[]): CardSplit {
  const { frames: taken, clock } = inOrderTaken(frames)
  const [byTime, byName] = [splitCard(taken), splitCard(frames)]
  return byName.series.length < byTime.series.length ? byName : { ...byTime, ...(clock && { clock }) }
}

/** Cameras note whole seconds. */
const BACK_ms = 1500

/**
 * The frames of a card, given in the order of their names, in the order in which they were taken: as their times say, where all tell. Where the
 * time goes back once although the numbers go on, the camera's clock was set in between: then the names say it, and that is told.
 */
export function inOrderTaken(frames: CardFrame[]): { frames: CardFrame[]; clock?: Sentence } {
  if (!frames.every(({ taken_ms }) => taken_ms !== undefined)) return { frames }
  const back = frames.flatMap(({ taken_ms }, k) => (k > 0 && taken_ms! < frames[k - 1].taken_ms! - BACK_ms ? [k] : []))
  const [set] = back
  if (back.length !== 1 || !followsOn(frames[set - 1].file, frames[set].file)) return { frames: frames.toSorted((a, b) => a.taken_ms! - b.taken_ms!) }
  // Times after the clock was set are brought to go on from those before, so that no pause is taken for one.
  const [before, after] = [frames[set - 1], frames[set]]
  const shift_ms = before.taken_ms! - after.taken_ms! + 1
  return {
    frames: frames.map((frame, k) => (k < set ? frame : { ...frame, taken_ms: frame.taken_ms! + shift_ms })),
    clock: say('split.clock', { from: before.file, to: after.file }),
  }
}

/** Whether a file's number is the next one after another's, all else in their names alike. */
function followsOn(before: string, after: string): boolean {
  const [one, other] = [before, after].map((name) => /^(.*?)(\d+)(\D*)$/.exec(name))
  return one !== null && other !== null && one[1] === other[1] && one[3] === other[3] && Number(other[2]) === Number(one[2]) + 1
}
