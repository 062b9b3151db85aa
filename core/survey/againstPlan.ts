import { FocusLine, type Plan } from '../plan'
import { say } from '../words'
import { gapMessage, type Gap, type LeftOut } from './coverage'
import type { SurveyMessage, SurveyReport } from './survey'

/**
 * What a survey says once it is known where the focus of each frame was: by a rail or drive that tells. Slices of the
 * plan beyond the outermost used frames are missing, whatever the pictures show. `positions_mm` goes by file name, from
 * the subject's near edge, which lies `near_mm` from the lens where the plan is one by distances.
 */
export function againstPlan(seen: SurveyReport, positions_mm: Map<string, number>, plan: Plan, near_mm = 0): SurveyReport {
  const line = new FocusLine(plan, plan.frames)
  const place = (mm: number) => line.direction * line.placeOf(mm + near_mm)
  const placeOf = (file: string) => (positions_mm.has(file) ? place(positions_mm.get(file)!) : undefined)
  const planned = line.places.map((at) => line.direction * at)
  // Leaves and waves change from frame to frame as an end does that was not reached: of a range, whose ends are chosen and
  // not the subject's own, the focus alone tells. A subject may be deeper than it was measured; there the pictures count too.
  const chosen = plan.hyperfocal_mm !== undefined
  const moved = withMovedFrames(seen, line.stride, placeOf)
  const report = withoutClosedGaps(withoutFramesBeyond(moved, chosen, planned, line.stride, placeOf), line.stride, placeOf)
  const used = report.frames.flatMap(({ file, role }) =>
    role === 'use' && positions_mm.has(file) ? [{ file, at: place(positions_mm.get(file)!) }] : [],
  )
  if (used.length === 0) return report
  // A frame that was taken there and adds nothing shows that the subject ends before it: no more are wanted.
  const taken = report.frames.flatMap(({ file, role, reasonCode }) =>
    positions_mm.has(file) && (role === 'use' || reasonCode === 'beyond') ? [{ file, at: place(positions_mm.get(file)!) }] : [],
  )
  const nearest = taken.reduce((a, b) => (b.at < a.at ? b : a))
  const farthest = taken.reduce((a, b) => (b.at > a.at ? b : a))
  // Half a step of slack: a frame may come out a little beside its place.
  const slack = line.stride / 2
  const nearer = planned.filter((at) => at < nearest.at - slack).length
  const farther = planned.filter((at) => at > farthest.at + slack).length
  const short = (code: 'near-short' | 'far-short', missing: number, file: string): SurveyMessage => ({
    code,
    missing,
    text: say(`survey.${code}-of-plan`, { missing, percent: report.coverage.unsharp?.[code === 'near-short' ? 'near_percent' : 'far_percent'] ?? 0 })
      .text,
    files: [file],
  })
  const gaps = gapsBetween(used, line.stride).filter(
    ({ after, before }) => !report.coverage.gaps.some((gap) => [gap.after, gap.before].includes(after) || [gap.after, gap.before].includes(before)),
  )
  // A gap that the pictures showed is said with the place of what was left out there.
  const withPlace = (message: SurveyMessage): SurveyMessage => {
    const gap = message.code === 'gap' && report.coverage.gaps.find(({ after, before }) => message.files[0] === after && message.files[1] === before)
    return gap ? gapMessage(gap, leftOutOf(report, gap, positions_mm, near_mm)) : message
  }
  const others = report.messages
    .map(withPlace)
    .filter(({ code }) => !((code === 'near-short' && (chosen || nearer > 0)) || (code === 'far-short' && (chosen || farther > 0))))
  const endOf = (missing: number, seenAs: 'reached' | 'short') => (missing > 0 ? 'short' : chosen ? 'reached' : seenAs)
  return {
    ...report,
    coverage: {
      ...report.coverage,
      nearEnd: endOf(nearer, report.coverage.nearEnd),
      farEnd: endOf(farther, report.coverage.farEnd),
      gaps: [...report.coverage.gaps, ...gaps],
    },
    messages: [
      ...(nearer > 0 ? [short('near-short', nearer, nearest.file)] : []),
      ...(farther > 0 ? [short('far-short', farther, farthest.file)] : []),
      ...gaps.map((gap) => gapMessage(gap, leftOutOf(report, gap, positions_mm, near_mm))),
      ...others,
    ],
  }
}

/** A longer step than this, in steps of the plan, leaves a gap; a shorter one than that does not count as moved. */
const GAP = 1.6
const MOVED = 0.5
const BEYOND = 1.5

/** Frames that look alike to the pictures but whose focus did move are used after all: little may show of a far slice. */
function withMovedFrames(report: SurveyReport, stride: number, placeOf: (file: string) => number | undefined): SurveyReport {
  const used = report.frames.flatMap(({ file, role }) => (role === 'use' ? (placeOf(file) ?? []) : []))
  const frames = report.frames.map((frame) => {
    const at = placeOf(frame.file)
    if (frame.role !== 'idle' || at === undefined || used.some((other) => Math.abs(other - at) < MOVED * stride)) return frame
    // What lies beyond all others may rightly add nothing: only what stands among them, or next to them, is taken back.
    const away = Math.min(...used.map((other) => Math.abs(other - at)))
    return away < GAP * stride && frame.reasonCode === 'unmoved' ? { ...frame, role: 'use' as const, reasonCode: undefined, reason: '' } : frame
  })
  return { ...report, frames }
}

/**
 * Frames focused beyond the ends of the plan, by more than a step and a half, add nothing: where the ends were chosen, or
 * where the pictures say that the subject ends within the run.
 */
function withoutFramesBeyond(
  report: SurveyReport,
  chosen: boolean,
  planned: number[],
  stride: number,
  placeOf: (file: string) => number | undefined,
): SurveyReport {
  const [first, last] = [Math.min(...planned), Math.max(...planned)]
  const frames = report.frames.map((frame) => {
    const at = placeOf(frame.file)
    if (frame.role !== 'use' || at === undefined) return frame
    const end = at < first - BEYOND * stride ? 'near' : at > last + BEYOND * stride ? 'far' : undefined
    return end && (chosen || report.coverage[`${end}End`] === 'reached')
      ? { ...frame, role: 'idle' as const, reasonCode: 'beyond-plan' as const, reason: say('why.beyond-plan', { end }).text }
      : frame
  })
  return { ...report, frames }
}

/** Flawed frames focused within a gap, with the place: it is what is to be taken again. */
function leftOutOf({ frames }: SurveyReport, { after, before }: Gap, positions_mm: Map<string, number>, near_mm: number): LeftOut[] {
  const [from, to] = [positions_mm.get(after)!, positions_mm.get(before)!].sort((a, b) => a - b)
  return frames.flatMap(({ file, role, reason }) => {
    const at_mm = positions_mm.get(file)
    if (role !== 'flawed' || at_mm === undefined || at_mm <= from || at_mm >= to) return []
    return [{ file, reason, ...(near_mm === 0 && { at_mm }) }]
  })
}

function gapsBetween(used: { file: string; at: number }[], stride: number): Gap[] {
  const along = [...used].sort((a, b) => a.at - b.at)
  return along.slice(1).flatMap(({ file, at }, k) => {
    const step = (at - along[k].at) / stride
    return step > GAP ? [{ after: along[k].file, before: file, missing: Math.max(1, Math.round(step) - 1) }] : []
  })
}

/** Gaps that the pictures seem to show and that the focus, where it is known, did not leave: few frames measure poorly. */
function withoutClosedGaps(report: SurveyReport, stride: number, placeOf: (file: string) => number | undefined): SurveyReport {
  const closed = (after: string, before: string) => {
    const [a, b] = [placeOf(after), placeOf(before)]
    return a !== undefined && b !== undefined && Math.abs(a - b) <= GAP * stride
  }
  const gaps = report.coverage.gaps.filter(({ after, before }) => !closed(after, before))
  return {
    ...report,
    coverage: { ...report.coverage, gaps },
    // Where slices should touch is for the plan to say.
    messages: report.messages.filter(
      ({ code, files: [after, before] }) => !(code === 'gap' && closed(after, before)) && !(code === 'loose' && gaps.length === 0),
    ),
  }
}
