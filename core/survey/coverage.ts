import { placeText } from '../units'
import { say } from '../words'
import type { FrameFacts } from './frameFacts'
import type { Steps } from './steps'
import type { SurveyMessage } from './survey'
import { BETWEEN_px, PARTS, unsharpParts, type Sharpness, type Unsharp } from './unsharp'

/** How far the focus of a series went, and what of the picture it left out. */
export interface Coverage {
  nearEnd: 'reached' | 'short'
  farEnd: 'reached' | 'short'
  gaps: Gap[]
  /** What no frame shows sharp; absent where fewer than three frames can be used. */
  unsharp?: UnsharpReport
}

export interface Gap {
  after: string
  before: string
  /** How many frames would fill it. */
  missing: number
}

export interface UnsharpReport {
  /** Parts of the picture that are sharp in no frame, in percent of all. */
  share_percent: number
  near_percent: number
  far_percent: number
  between_percent: number
  /** About how many frames would reach most of what lies beyond each end. */
  missing: { near: number; far: number }
  /** The frame whose view the map is in. */
  file: string
  /** Rows of parts from the top, a letter each: `.` sharp or empty, `n` beyond the near end, `f` beyond the far end, `b` between slices. */
  map: string[]
}

/** A step longer than this many usual ones leaves a gap. */
export const GAP_steps = 1.6
/** More of the picture than this, in percent, beyond an end: it is short. The first where the picture's scale measures the steps. */
const MOST_percent = { byScale: 8, bySharpness: 13 }
/** Blur that should be left at most halfway between two frames, in px of frames 640 px wide. */
const TIGHT_px = 1

const LETTERS: Record<Sharpness, string> = { sharp: '.', near: 'n', far: 'f', between: 'b' }

/** What a series covers: `used` frames from near to far, their steps, and the file of each place in that order. */
export function coverageOf(used: FrameFacts[], { steps, motions, byScale }: Steps, fileAt: (place: number) => string): Coverage {
  const lengths = steps.map(({ length }) => length)
  const unsharp = used.length >= 3 && lengths.every(Number.isFinite) ? unsharpParts(used, placesOf(lengths), motions) : undefined
  const gaps = lengths.flatMap((length, n) => {
    const missing = Math.max(length > GAP_steps ? Math.round(length) - 1 : 0, looseBy(unsharp?.blurPerStep_px, length))
    return missing > 0 || length > GAP_steps ? [{ after: fileAt(n), before: fileAt(n + 1), missing: Math.max(1, missing) }] : []
  })
  if (!unsharp) return { nearEnd: 'reached', farEnd: 'reached', gaps }
  const report = reportOf(unsharp, fileAt)
  const most = byScale ? MOST_percent.byScale : MOST_percent.bySharpness
  return {
    nearEnd: report.near_percent > most ? 'short' : 'reached',
    farEnd: report.far_percent > most ? 'short' : 'reached',
    gaps,
    unsharp: report,
  }
}

/** How many frames between two make their slices touch again; 0 where they do. */
function looseBy(blurPerStep_px: number | undefined, length: number): number {
  const between_px = ((blurPerStep_px ?? 0) * length) / 2
  return between_px > BETWEEN_px ? Math.max(1, Math.round(between_px / TIGHT_px) - 1) : 0
}

/** Places of frames by the steps between them. */
export const placesOf = (lengths: number[]) => lengths.reduce((places, length) => [...places, places.at(-1)! + length], [0])

function reportOf({ parts, seenFrom, beyond }: Unsharp, fileAt: (place: number) => string): UnsharpReport {
  const percent = (where: Sharpness) => Math.round((1000 * parts.filter((part) => part === where).length) / parts.length) / 10
  const [near_percent, far_percent, between_percent] = [percent('near'), percent('far'), percent('between')]
  const letters = parts.map((part) => LETTERS[part]).join('')
  return {
    share_percent: Math.round(10 * (near_percent + far_percent + between_percent)) / 10,
    near_percent,
    far_percent,
    between_percent,
    missing: beyond,
    file: fileAt(seenFrom),
    map: Array.from({ length: PARTS.down }, (_, row) => letters.slice(row * PARTS.across, (row + 1) * PARTS.across)),
  }
}

/** What is to be said of a coverage; `first` and `last` are the nearest and the farthest frame, `leftOut` what was taken in a gap and is not used. */
export function coverageMessages(
  { nearEnd, farEnd, gaps, unsharp }: Coverage,
  steps: number,
  ends: { first: string; last: string },
  leftOut: (gap: Gap) => LeftOut[],
): SurveyMessage[] {
  const messages: SurveyMessage[] = []
  if (nearEnd === 'short' && unsharp) messages.push(shortMessage('near', unsharp.near_percent, unsharp.missing.near, ends.first))
  if (farEnd === 'short' && unsharp) messages.push(shortMessage('far', unsharp.far_percent, unsharp.missing.far, ends.last))
  // Said once where it is so throughout.
  if (gaps.length > 1 && gaps.length > steps / 2) messages.push(looseMessage(gaps))
  else messages.push(...gaps.map((gap) => gapMessage(gap, leftOut(gap))))
  return messages
}

function shortMessage(end: 'near' | 'far', percent: number, missing: number, file: string): SurveyMessage {
  return { code: `${end}-short`, missing, text: say(`survey.${end}-short`, { percent: Math.round(percent), missing }).text, files: [file] }
}

function looseMessage(gaps: Gap[]): SurveyMessage {
  return {
    code: 'loose',
    missing: gaps.reduce((sum, { missing }) => sum + missing, 0),
    text: say('survey.loose', { most: Math.max(...gaps.map(({ missing }) => missing)) }).text,
    files: [gaps[0].after, gaps.at(-1)!.before],
  }
}

/** A frame that was taken and is not used, and where it was focused, where that is known. */
export interface LeftOut {
  file: string
  reason: string
  at_mm?: number
}

/** A gap in words: what is missing, or which frame was taken there and left out. */
export function gapMessage({ after, before, missing }: Gap, leftOut: LeftOut[] = []): SurveyMessage {
  if (leftOut.length === 1) {
    const [{ file, reason, at_mm }] = leftOut
    const at = at_mm === undefined ? '' : `, at ${placeText(at_mm)},`
    return { code: 'gap', missing, text: say('survey.gap-left-out', { file, at, reason }).text, files: [after, before, file] }
  }
  return { code: 'gap', missing, text: say('survey.gap', { after, before, missing }).text, files: [after, before] }
}
