import type { Role, SurveyReport } from '@/core/survey'
import type { FrameDetail, RunDetail } from '@/schemas'
import { frameNumbers } from '../frameNumbers'

/** A frame of a run with what is to be done with it. */
export interface SortedFrame {
  /** What every screen calls it by. */
  number: number
  frame: FrameDetail
  role: Role | 'aside'
  reason: string
  /** Whether it will be fused. */
  used: boolean
}

/** State is shown by shape and word. */
export const ROLE_WORDS: Record<Role | 'aside', string> = {
  use: '● used',
  idle: '– adds nothing',
  flawed: '✕ flawed',
  divider: '◇ divider',
  aside: '○ left out',
}

/** The frames of a run in focus order as far as it is known, each with its role: by hand, else as surveyed. */
export function sortedFrames({ frames, survey }: Pick<RunDetail, 'frames' | 'survey'>): SortedFrame[] {
  const surveyed = survey?.frames ?? []
  const found = new Map(surveyed.map((frame, place) => [frame.file, { ...frame, place }]))
  const place = ({ name }: FrameDetail) => found.get(name)?.place ?? Infinity
  const { byId } = frameNumbers({ frames })
  return [...frames]
    .sort((a, b) => place(a) - place(b) || frames.indexOf(a) - frames.indexOf(b))
    .map((frame) => {
      const said = found.get(frame.name)
      const role = said?.role ?? 'use'
      const number = byId.get(frame.id)!
      if (frame.aside === true) return { number, frame, role: 'aside', reason: 'by hand', used: false }
      if (frame.aside === false) return { number, frame, role: 'use', reason: role === 'use' ? '' : 'used again by hand', used: true }
      return { number, frame, role, reason: said?.reason ?? '', used: role === 'use' }
    })
}

/** The survey in one line. */
export function surveyHeadline(survey: SurveyReport): string {
  const used = survey.frames.filter(({ role }) => role === 'use').length
  const left = survey.frames.length - used
  const order = { 'near-to-far': 'near to far', 'far-to-near': 'far to near', mixed: 'in mixed order' }[survey.order]
  const frames = `${used} frames, shot ${order}${left > 0 ? `; ${left} left out` : ''}`
  return survey.messages.length === 0 ? `Complete: both ends reached, no gap. ${frames}.` : `Before you leave. ${frames}.`
}
