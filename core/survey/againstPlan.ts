import { Course, type Plan } from '../plan'
import type { SurveyMessage, SurveyReport } from './survey'

/**
 * What a survey says once it is known where the focus of each frame was: by a rail or drive that tells. Slices of the
 * plan beyond the outermost used frames are missing, whatever the pictures show. `positions_mm` goes by file name, from
 * the subject's near edge, which lies `near_mm` from the lens where the plan is one by distances.
 */
export function againstPlan(report: SurveyReport, positions_mm: Map<string, number>, plan: Plan, near_mm = 0): SurveyReport {
  const course = new Course(plan, plan.frames)
  const place = (mm: number) => course.sense * course.placeOf(mm + near_mm)
  const used = report.frames.flatMap(({ file, role }) =>
    role === 'use' && positions_mm.has(file) ? [{ file, at: place(positions_mm.get(file)!) }] : [],
  )
  if (used.length === 0) return report
  const planned = course.places.map((at) => course.sense * at)
  const nearest = used.reduce((a, b) => (b.at < a.at ? b : a))
  const farthest = used.reduce((a, b) => (b.at > a.at ? b : a))
  // Half a step of slack: a frame may come out a little beside its place.
  const slack = course.stride / 2
  const nearer = planned.filter((at) => at < nearest.at - slack).length
  const farther = planned.filter((at) => at > farthest.at + slack).length
  const short = (code: 'near-short' | 'far-short', count: number, file: string): SurveyMessage => {
    const end = code === 'near-short' ? 'near' : 'far'
    const where = code === 'near-short' ? 'nearer than the first' : 'beyond the last'
    return { code, text: `The ${end} end is not reached: take ${count} more ${count === 1 ? 'frame' : 'frames'} ${where}.`, files: [file] }
  }
  const others = report.messages.filter(({ code }) => !((code === 'near-short' && nearer > 0) || (code === 'far-short' && farther > 0)))
  return {
    ...report,
    coverage: {
      ...report.coverage,
      nearEnd: nearer > 0 ? 'short' : report.coverage.nearEnd,
      farEnd: farther > 0 ? 'short' : report.coverage.farEnd,
    },
    messages: [
      ...(nearer > 0 ? [short('near-short', nearer, nearest.file)] : []),
      ...(farther > 0 ? [short('far-short', farther, farthest.file)] : []),
      ...others,
    ],
  }
}
