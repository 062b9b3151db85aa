import type { FocusLine, PlannedFrame } from '../plan'
import type { FieldEntry } from './log'

/** A line of the run as it went. */
export interface FieldRow {
  /** Entry that tells of it, and when. */
  id: string
  at: string
  what: 'frame' | 'repeat' | 'test' | 'divider' | 'spare' | 'missed'
  /** Its number on the run card, 1-based in shooting order; the first of them where the body took several. */
  number?: number
  /** What it holds sharp: one frame, several where the body took them by itself, none for tests and dividers. */
  frames: PlannedFrame[]
  /** Focus was not where the plan wanted it. */
  differs: boolean
  /** It took the frame that was next: without it, those after it move up. */
  counts: boolean
}

/** Two neighbours that lie too far apart, with the frames that would close it, nearest to the first one first. */
export interface FieldGap {
  after: PlannedFrame
  before: PlannedFrame
  fill: PlannedFrame[]
}

/** How a run stands. */
export interface FieldProgress {
  /** In the order of time. A frame that was missed and taken afterwards is there once, as taken. */
  rows: FieldRow[]
  /** What is still to be taken, in order, from where the focus really is; the first one is next. */
  ahead: PlannedFrame[]
  /** Number of the next frame on the run card. */
  next: number
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

/** Reads the entries of one run against the plan; the plan gives way to where the focus really is. */
export function fieldProgress(line: FocusLine, entries: FieldEntry[]): FieldProgress {
  const cleared = new Set(entries.flatMap((entry) => (entry.kind === 'cleared' ? [entry.entry] : [])))
  const prepared = new Set<string>()
  let rows: FieldRow[] = []
  let ahead = [...line.order]
  let paused = false
  let number = 0
  const place = (frame: PlannedFrame) => line.placeOf(line.positionOf(frame))

  const take = ({ id, at }: FieldEntry, position?: number) => {
    const planned = ahead.shift()
    const really = position === undefined ? undefined : line.placeOf(position)
    const differs = really !== undefined && (!planned || Math.abs(really - place(planned)) > SAME * line.stride)
    const frame = differs || !planned ? line.frameAt(really ?? line.places.at(-1)!) : planned
    if (planned) number++
    const numbered = planned && { number }
    rows.push({ id, at, what: cleared.has(id) ? 'missed' : planned ? 'frame' : 'spare', ...numbered, frames: [frame], differs, counts: true })
    const nextTooFar = really !== undefined && ahead.length > 0 && Math.abs(place(ahead[0]) - really) > 1.02 * line.stride
    if (differs || nextTooFar) ahead = reflow(line, really!)
  }

  const fill = ({ id, at }: FieldEntry, position: number) => {
    const frame = line.frameAt(line.placeOf(position))
    // A frame that was missed there has been taken now, under its own number.
    const missed = rows.find(({ what, frames: [left] }) => what === 'missed' && Math.abs(place(left) - place(frame)) < line.stride / 2)
    rows = rows.filter((row) => row !== missed)
    rows.push({ id, at, what: 'frame', ...(missed && { number: missed.number }), frames: [frame], differs: false, counts: false })
  }

  for (const entry of entries) {
    const { id, at, kind } = entry
    // A repeat, a test or a divider that was not taken leaves nothing behind.
    if (cleared.has(id) && kind !== 'taken') continue
    if (kind === 'prepared') prepared[entry.done ? 'add' : 'delete'](entry.line)
    else if (kind === 'paused' || kind === 'resumed') paused = kind === 'paused'
    else if (kind === 'extra') rows.push({ id, at, what: entry.what, frames: [], differs: false, counts: false })
    else if (kind === 'repeated') {
      const last = rows.findLast(({ what, frames }) => what !== 'missed' && frames.length > 0)
      rows.push({ id, at, what: 'repeat', frames: last?.frames.slice(-1) ?? [], differs: false, counts: false })
    } else if (kind === 'missed' && ahead.length > 0)
      rows.push({ id, at, what: 'missed', number: ++number, frames: [ahead.shift()!], differs: false, counts: true })
    else if (kind === 'taken') take(entry, entry.position)
    else if (kind === 'filled') fill(entry, entry.position)
    else if (kind === 'bracketed' && ahead.length > 0) {
      const frames = ahead.splice(0, entry.frames)
      rows.push({ id, at, what: 'frame', number: number + 1, frames, differs: false, counts: true })
      number += frames.length
    }
  }
  const gaps = gapsOf(line, rows)
  return { rows, ahead, next: number + 1, gaps, prepared: [...prepared], paused, complete: ahead.length === 0 && gaps.length === 0 }
}

/** The frames still to take after one at `from`: evenly to the same end, no step longer than planned. */
function reflow(line: FocusLine, from: number): PlannedFrame[] {
  const end = line.places.at(-1)!
  const way = (end - from) * line.direction
  if (way <= SAME * line.stride) return []
  // Nothing differs from the plan where its own next frame is one good step away.
  const steps = Math.max(1, Math.ceil(way / line.stride - 0.02))
  return Array.from({ length: steps }, (_, k) => line.frameAt(from + ((k + 1) / steps) * (end - from)))
}

function gapsOf(line: FocusLine, rows: FieldRow[]): FieldGap[] {
  const frames = rows.flatMap(({ frames: held, what }) => (what === 'missed' ? [] : held))
  const place = (frame: PlannedFrame) => line.placeOf(line.positionOf(frame))
  const along = frames.sort((a, b) => (place(a) - place(b)) * line.direction)
  return along.slice(1).flatMap((before, k) => {
    const after = along[k]
    const step = Math.abs(place(before) - place(after))
    if (step <= TOO_LONG * line.stride) return []
    const planned = line.order.filter(
      (frame) =>
        [after, before].every((end) => Math.abs(place(frame) - place(end)) > SAME * line.stride) &&
        isBetween(place(frame), place(after), place(before)),
    )
    // The planned frames close it under their own numbers, unless the focus went otherwise and fewer would do.
    const even = evenly(after, before, step)
    const fill = planned.length <= even.length && closes([after, ...planned, before].map(place)) ? planned : even
    return fill.length > 0 ? [{ after, before, fill }] : []
  })

  /** No step of these is too long. */
  function closes(places: number[]): boolean {
    return places.slice(1).every((at, k) => Math.abs(at - places[k]) <= TOO_LONG * line.stride)
  }

  function evenly(after: PlannedFrame, before: PlannedFrame, step: number): PlannedFrame[] {
    const steps = Math.ceil(step / line.stride - 0.02)
    return Array.from({ length: steps - 1 }, (_, j) => line.frameAt(place(after) + ((j + 1) / steps) * (place(before) - place(after))))
  }
}

const isBetween = (at: number, a: number, b: number) => at > Math.min(a, b) && at < Math.max(a, b)
