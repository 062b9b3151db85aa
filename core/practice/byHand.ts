import { Play } from '../devices'
import { gaussian, randomStream, type SeriesRequest } from '../simulate'
import { percentOf, type Exercise, type Level } from './exercise'
import { calmSeries, cameraOn, evenly, SUBJECTS } from './scenes'
import { say } from './words'

export interface ByHandTask {
  /** Live view: the carriage at each of these places. */
  request: SeriesRequest
  /** Where frames are planned, in mm of the carriage from where it stands at the beginning. */
  planned_mm: number[]
  marksATurn: number
  mmAMark: number
  backlash_mm: number
  /** Someone knocks against the rail before this frame (counted from 0): the carriage slips by so much, the dial does not. */
  knock?: { before: number; slip_mm: number }
  /** So long it should take, without hurry. */
  time_s: number
}

export interface ByHandAnswer {
  /** Where the carriage stood at each press, in mm from its beginning. */
  pressed_mm: number[]
  took_s: number
}

const FRAMES: Record<Level, number> = { 1: 6, 2: 8, 3: 10 }
/** Marks from frame to frame: round ones to begin with. */
const STRIDES: Record<Level, number[]> = { 1: [50, 40, 25], 2: [35, 45, 30], 3: [27, 33, 38] }
const BACKLASH_marks: Record<Level, number> = { 1: 0, 2: 12, 3: 18 }
const MARKS_A_TURN = 100
const SECONDS_A_FRAME = 6
/** The carriage can be seen from so many strides before the first frame to so many after the last. */
const BEYOND_strides = 3
const VIEWS_A_STRIDE = 10

/** A manual rail with play and a dial, against the clock, and something disturbs. */
export const byHand: Exercise<ByHandTask, ByHandAnswer> = {
  title: 'By hand',
  aim: 'Turn a manual rail through a planned series: count marks, take up the play, notice when something slips.',
  caution: 'On a real rail, let go of the knob and wait until nothing shakes before each frame.',
  pose(seed, level) {
    const random = randomStream(seed)
    const subject = SUBJECTS[Math.floor(random() * SUBJECTS.length)]
    const count = FRAMES[level]
    const marks = STRIDES[level][Math.floor(random() * STRIDES[level].length)]
    const stride_mm = (0.8 * subject.depth_mm) / (count - 1)
    const mmAMark = stride_mm / marks
    const knock = level === 3 ? { before: 3 + Math.floor(random() * (count - 5)), slip_mm: -(0.6 + 0.3 * random()) * stride_mm } : undefined
    const views = (count - 1 + 2 * BEYOND_strides) * VIEWS_A_STRIDE + 1
    const positions_mm = evenly(-BEYOND_strides * stride_mm, (count - 1 + BEYOND_strides) * stride_mm, views)
    return {
      request: calmSeries(subject, seed, cameraOn(subject, 5.6, 'rail'), positions_mm),
      planned_mm: evenly(0, stride_mm * (count - 1), count),
      marksATurn: MARKS_A_TURN,
      mmAMark,
      backlash_mm: BACKLASH_marks[level] * mmAMark,
      knock,
      time_s: count * SECONDS_A_FRAME,
    }
  },
  mark({ planned_mm, knock, time_s }, { pressed_mm, took_s }) {
    const stride_mm = planned_mm[1] - planned_mm[0]
    // A plane is covered by a frame within half a stride of it; the others lie in gaps.
    const missed = planned_mm.filter((plane) => !pressed_mm.some((at) => Math.abs(at - plane) <= 0.5 * stride_mm)).length
    const spare = Math.max(0, pressed_mm.length - (planned_mm.length - missed))
    const off = pressed_mm.map((at) => Math.min(...planned_mm.map((plane) => Math.abs(at - plane))) / stride_mm)
    const off_percent = off.length === 0 ? 0 : (100 * off.reduce((sum, each) => sum + each, 0)) / off.length
    const late_s = Math.max(0, took_s - time_s)
    const percent = percentOf(100 - (100 * missed) / planned_mm.length - 4 * spare - off_percent / 2 - late_s / 3)
    return {
      percent,
      said: [
        missed === 0 ? say('practice.hand.all', { frames: planned_mm.length }) : say('practice.hand.missed', { missed, frames: planned_mm.length }),
        say('practice.hand.off', { off_percent }),
        ...(spare > 0 ? [say('practice.hand.spare', { spare })] : []),
        ...(knock ? [say('practice.hand.knock', { frame: knock.before + 1, strides: Math.abs(knock.slip_mm) / stride_mm })] : []),
        late_s > 0 ? say('practice.hand.late', { late_s }) : say('practice.hand.time', { took_s }),
      ],
    }
  },
}

/** The rail as one turns it: a dial that tells marks, a carriage that follows with its play. */
export class HandRail {
  private readonly screw: Play
  private readonly random: () => number
  readonly pressed_mm: number[] = []
  /** Someone has knocked against it. */
  knocked = false

  constructor(
    private readonly task: ByHandTask,
    seed: number,
  ) {
    this.screw = new Play(task.backlash_mm)
    this.random = randomStream(seed + 17)
  }

  /** What the dial shows, in marks from the beginning. */
  get marks(): number {
    return Math.round(this.screw.reading_mm / this.task.mmAMark)
  }

  get carriage_mm(): number {
    return this.screw.carriage_mm
  }

  turn(marks: number): void {
    this.screw.moveTo(this.screw.reading_mm + marks * this.task.mmAMark)
  }

  /** Takes a frame; a hand on the button shakes a rail a little. Afterwards somebody may knock against it. */
  press(): void {
    this.pressed_mm.push(this.screw.carriage_mm + gaussian(this.random) * 0.1 * this.task.mmAMark)
    const { knock } = this.task
    if (!knock || this.knocked || this.pressed_mm.length !== knock.before) return
    this.screw.slip(knock.slip_mm)
    this.knocked = true
  }

  /** The index of the live picture that shows where the carriage stands. */
  get view(): number {
    const { positions_mm } = this.task.request
    const step_mm = positions_mm[1] - positions_mm[0]
    return Math.min(positions_mm.length - 1, Math.max(0, Math.round((this.screw.carriage_mm - positions_mm[0]) / step_mm)))
  }
}
