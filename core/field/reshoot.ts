import type { FocusLine, PlannedFrame } from '../plan'
import type { SurveyReport } from '../survey'

/** Frames to take before leaving, with why. */
export interface Reshoot {
  why: 'near' | 'far' | 'gap'
  /** Files on both sides of a gap. */
  between?: [string, string]
  /** In shooting order. */
  frames: PlannedFrame[]
}

/**
 * What a survey wants taken again, as frames that the mover can be set to. `frameOf` tells the focus of each file, where
 * it is known; without it the survey's own words are all there is.
 */
export function reshootList(line: FocusLine, { coverage, frames }: SurveyReport, frameOf: Map<string, PlannedFrame>): Reshoot[] {
  const place = (frame: PlannedFrame) => line.placeOf(line.positionOf(frame))
  const list: Reshoot[] = []
  for (const { after, before, missing } of coverage.gaps) {
    const [a, b] = [frameOf.get(after), frameOf.get(before)]
    if (!a || !b) continue
    const fill = Array.from({ length: missing }, (_, k) => line.frameAt(place(a) + ((k + 1) / (missing + 1)) * (place(b) - place(a))))
    list.push({ why: 'gap', between: [after, before], frames: inOrder(line, fill) })
  }
  const used = frames.flatMap(({ file, role }) => (role === 'use' && frameOf.has(file) ? [place(frameOf.get(file)!)] : []))
  if (used.length === 0) return list
  // The plan's own order may be far to near: the line's coordinate says which is near along that order.
  const nearFirst = line.positionOf(line.order[0]) <= line.positionOf(line.order.at(-1)!)
  const along = used.map((at) => at * line.direction)
  const [first, last] = [Math.min(...along), Math.max(...along)]
  const slack = line.stride / 2
  const before = line.order.filter((frame) => place(frame) * line.direction < first - slack)
  const beyond = line.order.filter((frame) => place(frame) * line.direction > last + slack)
  const ends = { near: nearFirst ? before : beyond, far: nearFirst ? beyond : before }
  if (coverage.nearEnd === 'short' && ends.near.length > 0) list.push({ why: 'near', frames: ends.near })
  if (coverage.farEnd === 'short' && ends.far.length > 0) list.push({ why: 'far', frames: ends.far })
  return list
}

function inOrder(line: FocusLine, frames: PlannedFrame[]): PlannedFrame[] {
  return frames.sort((a, b) => (line.placeOf(line.positionOf(a)) - line.placeOf(line.positionOf(b))) * line.direction)
}
