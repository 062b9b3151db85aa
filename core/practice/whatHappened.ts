import { randomStream, type Fault, type SeriesRequest } from '../simulate'
import type { Sentence } from '../words'
import { percentOf, type Exercise, type Level } from './exercise'
import { calmSeries, cameraOn, evenly, SUBJECTS } from './scenes'
import { say } from './words'

type Kind = Fault['kind']

/** What can have happened in a run, or nothing. */
export type Happening = Kind | 'nothing'

export interface HappenedTask {
  request: SeriesRequest
  /** What there is to choose from. */
  choices: Happening[]
  /** What did happen, and in which of the frames as they lie there, counted from 1; no frame where it struck them all. */
  truth: { kind: Happening; frame?: number }
}

export interface HappenedAnswer {
  kind: Happening
  frame?: number
}

const FRAMES = 10
/** One run of so many has no fault. */
const CLEAN = 6

/** Which faults a level has: those of the levels before it, too. */
const KINDS: Record<Level, Kind[]> = {
  1: ['noFlash', 'divider', 'bump', 'whiteBalance'],
  2: ['shake', 'skippedStep', 'endShort', 'startShort'],
  3: ['repeatedStep', 'flicker', 'stirred', 'dust'],
}

/** Whether a fault strikes one frame that can be named. */
export const strikesOneFrame = (kind: Happening) =>
  ['bump', 'noFlash', 'shake', 'whiteBalance', 'divider', 'skippedStep', 'repeatedStep'].includes(kind)

/** A run with a fault, or none: say which it is, and in which frame, from the frames alone. */
export const whatHappened: Exercise<HappenedTask, HappenedAnswer> = {
  title: 'What happened here?',
  aim: 'Look through a run and say what went wrong, and in which frame, before you pack up.',
  pose(seed, level) {
    const random = randomStream(seed)
    const choices = ([1, 2, 3] as const).filter((each) => each <= level).flatMap((each) => KINDS[each])
    const subject = SUBJECTS[Math.floor(random() * SUBJECTS.length)]
    const kind: Happening = random() * CLEAN < 1 ? 'nothing' : choices[Math.floor(random() * choices.length)]
    const frame = 3 + Math.floor(random() * (FRAMES - 4))
    const positions_mm = evenly(-0.05 * subject.depth_mm, 0.75 * subject.depth_mm, FRAMES)
    const request = calmSeries(subject, seed, cameraOn(subject, 5.6, 'ring'), positions_mm)
    if (kind !== 'nothing') request.faults = [faultOf(kind, frame, level)]
    return { request, choices: ['nothing', ...choices], truth: { kind, ...(strikesOneFrame(kind) && { frame }) } }
  },
  mark({ truth }, answer) {
    const said = [told(truth)]
    if (answer.kind !== truth.kind) return { percent: 0, said: [say('practice.happened.other', { answer: nameOf(answer.kind) }), ...said] }
    if (truth.frame === undefined) return { percent: 100, said: [say('practice.right'), ...said] }
    const away = Math.abs((answer.frame ?? -FRAMES) - truth.frame)
    if (away === 0) return { percent: 100, said: [say('practice.right'), ...said] }
    return { percent: percentOf(away === 1 ? 80 : 60), said: [say('practice.happened.frame', { frame: truth.frame }), ...said] }
  },
}

/** A fault as strong as the level wants it. */
function faultOf(kind: Kind, frame: number, level: Level): Fault {
  const softer = level === 3 ? 0.6 : 1
  switch (kind) {
    case 'bump':
      return { kind, frame, shift_percent: 3 * softer }
    case 'noFlash':
      return { kind, frame, stops: 2.5 * softer }
    case 'whiteBalance':
      return { kind, frame, red_ev: 0.4 * softer, blue_ev: -0.45 * softer }
    case 'shake':
      return { kind, frame, length_px: 9 * softer }
    case 'flicker':
      return { kind, ev: 0.2 }
    case 'sway':
      return { kind, shift_px: 3 }
    case 'stirred':
      return { kind, frame, frames: 3, shift_percent: 1.6 }
    case 'dust':
      return { kind, specks: 6 }
    case 'startShort':
    case 'endShort':
    case 'runsOn':
      return { kind, frames: 4 }
    case 'skippedStep':
    case 'repeatedStep':
    case 'divider':
      return { kind, frame }
  }
}

/** What a fault is called among the choices. */
export function nameOf(kind: Happening): string {
  return say(`practice.kind.${kind}`).text
}

const told = ({ kind, frame }: HappenedTask['truth']): Sentence => say(`practice.why.${kind}`, { frame: frame ?? 0 })
