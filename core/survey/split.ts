import type { Plane } from '../raster'
import { say, type Sentence } from '../words'
import { median } from '../statistics'
import { correlation } from './flaws'

/** A frame on a card, as far as telling one series from the next needs it. */
export interface CardFrame {
  file: string
  /** When it was taken, ms since 1970; absent where the file does not tell. */
  taken_ms?: number
  fNumber?: number
  focalLength_mm?: number
  exposure_s?: number
  width: number
  height: number
  /** The picture so coarse that focus hardly matters. */
  motif: Plane
}

export interface CardSeries {
  files: string[]
  /** Why it begins where it does; empty for the first. */
  reason: string
  /** The same as a code; absent for the first. */
  reasonCode?: string
}

export interface CardSplit {
  series: CardSeries[]
  /** Frames that only divide: a hand, a marker. */
  dividers: string[]
  /** That the camera's clock was set while the card was filled. */
  clock?: Sentence
}

/** Correlation of coarse pictures below which two neighbours show different things. */
const SAME_MOTIF = 0.6
/** So many frames of something else between two series are dividers, more are a series. */
const MOST_DIVIDERS = 2
/** A pause this long in any case, and so many times the usual interval, ends a series. */
const PAUSE_s = 90
const PAUSE_TIMES = 8

/** Splits a card's frames, in the order in which they were taken, into series, and says why. */
export function splitCard(frames: CardFrame[]): CardSplit {
  if (frames.length === 0) return { series: [], dividers: [] }
  const dividing = dividersOf(frames)
  const kept = frames.filter((_, k) => !dividing[k])
  const dividers = frames.filter((_, k) => dividing[k]).map(({ file }) => file)
  const pause_s = longestInterval_s(kept)
  const series: CardSeries[] = []
  for (const [k, frame] of frames.entries()) {
    if (dividing[k]) continue
    const before = frames.slice(0, k).findLast((_, j) => !dividing[j])
    const reason = before && reasonBetween(before, frame, k > 0 && dividing[k - 1], pause_s)
    if (!before || reason) series.push({ files: [], reason: reason?.text ?? '', ...(reason && { reasonCode: reason.code }) })
    series.at(-1)!.files.push(frame.file)
  }
  return { series, dividers }
}

function reasonBetween(before: CardFrame, frame: CardFrame, divided: boolean, pause_s: number): Sentence | undefined {
  if (divided) return say('split.divider')
  if (before.width !== frame.width || before.height !== frame.height) return say('split.size')
  if (differ(before.focalLength_mm, frame.focalLength_mm)) return say('split.focalLength')
  if (differ(before.fNumber, frame.fNumber)) return say('split.aperture', { from: before.fNumber!, to: frame.fNumber! })
  if (before.taken_ms !== undefined && frame.taken_ms !== undefined) {
    const waited_s = (frame.taken_ms - before.taken_ms) / 1000
    if (waited_s > pause_s) return say('split.pause', { waited_s })
  }
  if (correlation(before.motif, frame.motif) < SAME_MOTIF) return say('split.motif')
  return undefined
}

const differ = (a?: number, b?: number) => a !== undefined && b !== undefined && Math.abs(a - b) > 0.02 * a

/** Short stretches that show something else than what is before and after them. */
function dividersOf(frames: CardFrame[]): boolean[] {
  const dividing = frames.map(() => false)
  const changes = frames.map((frame, k) => k === 0 || correlation(frames[k - 1].motif, frame.motif) < SAME_MOTIF)
  for (let k = 0; k < frames.length;) {
    let end = k + 1
    while (end < frames.length && !changes[end]) end++
    // A card may begin or end with a divider; a single short stretch alone is a series.
    if (end - k <= MOST_DIVIDERS && end - k < frames.length) dividing.fill(true, k, end)
    k = end
  }
  return dividing.every(Boolean) ? frames.map(() => false) : dividing
}

function longestInterval_s(frames: CardFrame[]): number {
  const times = frames.flatMap(({ taken_ms }) => (taken_ms === undefined ? [] : [taken_ms]))
  const waits = times.slice(1).map((time, k) => (time - times[k]) / 1000)
  return waits.length === 0 ? Infinity : Math.max(PAUSE_s, PAUSE_TIMES * median(waits))
}
