import type { FocusLine, PlannedFrame } from '../plan'
import { newestRun, type FieldEntry } from './log'

/** A frame of the run as it went. */
export interface TakenFrame {
  /** Entry that tells of it, and when. */
  id: string
  at: string
  what: 'frame' | 'repeat' | 'test' | 'divider' | 'spare'
  /** What it holds sharp; absent for tests and dividers. */
  frame?: PlannedFrame
  /** Focus was not where the plan wanted it. */
  differs: boolean
}

/** Two neighbours that lie too far apart, with the frames that would close it, nearest to the first one first. */
export interface FieldGap {
  after: PlannedFrame
  before: PlannedFrame
  fill: PlannedFrame[]
}

/** How a run stands. */
export interface FieldProgress {
  taken: TakenFrame[]
  /** What is still to be taken, in order, from where the focus really is; the first one is next. */
  ahead: PlannedFrame[]
  missed: PlannedFrame[]
  gaps: FieldGap[]
  prepared: string[]
  paused: boolean
  /** All of the plan is covered. */
  complete: boolean
}

/** Within this part of a step the focus is where it should be. */
const SAME = 0.15
/** A step may be this much too long before it counts as a gap. */
const TOO_LONG = 1.12

/** Reads the newest run of a log against the plan; the plan gives way to where the focus really is. */
export function fieldProgress(line: FocusLine, log: FieldEntry[]): FieldProgress {
  const taken: TakenFrame[] = []
  const missed: PlannedFrame[] = []
  const prepared = new Set<string>()
  let ahead = [...line.order]
  let paused = false
  const place = (frame: PlannedFrame) => line.placeOf(line.positionOf(frame))
  for (const entry of newestRun(log)) {
    const { id, at } = entry
    if (entry.kind === 'prepared') prepared[entry.done ? 'add' : 'delete'](entry.line)
    if (entry.kind === 'paused' || entry.kind === 'resumed') paused = entry.kind === 'paused'
    if (entry.kind === 'extra') taken.push({ id, at, what: entry.what, differs: false })
    if (entry.kind === 'repeated') {
      const last = taken.findLast(({ frame }) => frame)
      taken.push({ id, at, what: 'repeat', frame: last?.frame, differs: false })
    }
    if (entry.kind === 'missed' && ahead.length > 0) missed.push(ahead.shift()!)
    if (entry.kind !== 'taken') continue
    const planned = ahead.shift()
    const really = entry.position === undefined ? undefined : line.placeOf(entry.position)
    const differs = really !== undefined && (!planned || Math.abs(really - place(planned)) > SAME * line.stride)
    const frame = differs || !planned ? line.frameAt(really ?? line.places.at(-1)!, planned?.index ?? line.order.length) : planned
    taken.push({ id, at, what: planned ? 'frame' : 'spare', frame, differs })
    const nextTooFar = really !== undefined && ahead.length > 0 && Math.abs(place(ahead[0]) - really) > 1.02 * line.stride
    if (differs || nextTooFar) ahead = reflow(line, really!, ahead)
  }
  const gaps = gapsOf(line, taken)
  const complete = ahead.length === 0 && gaps.length === 0
  return { taken, ahead, missed, gaps, prepared: [...prepared], paused, complete }
}

/** The frames still to take after one at `from`: evenly to the same end, no step longer than planned. */
function reflow(line: FocusLine, from: number, ahead: PlannedFrame[]): PlannedFrame[] {
  const end = line.places.at(-1)!
  const way = (end - from) * line.direction
  if (way <= SAME * line.stride) return []
  // Nothing differs from the plan where its own next frame is one good step away.
  const steps = Math.max(1, Math.ceil(way / line.stride - 0.02))
  const index = (k: number) => ahead[k]?.index ?? line.order.length + k
  return Array.from({ length: steps }, (_, k) => line.frameAt(from + ((k + 1) / steps) * (end - from), index(k)))
}

function gapsOf(line: FocusLine, taken: TakenFrame[]): FieldGap[] {
  const frames = taken.flatMap(({ frame, what }) => (frame && what !== 'test' && what !== 'divider' ? [frame] : []))
  const place = (frame: PlannedFrame) => line.placeOf(line.positionOf(frame))
  const along = frames.sort((a, b) => (place(a) - place(b)) * line.direction)
  return along.slice(1).flatMap((before, k) => {
    const after = along[k]
    const step = Math.abs(place(before) - place(after))
    if (step <= TOO_LONG * line.stride) return []
    const steps = Math.ceil(step / line.stride - 0.02)
    const fill = Array.from({ length: steps - 1 }, (_, j) => line.frameAt(place(after) + ((j + 1) / steps) * (place(before) - place(after)), j))
    return [{ after, before, fill }]
  })
}
