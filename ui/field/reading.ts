import { movesCamera } from '@/core/movers'
import { fromSensor_mm } from '@/core/optics'
import type { FocusLine } from '@/core/plan'
import type { SheetPlan } from '@/core/sheet'

/** What to ask for where the focus is not where the plan wanted it, and how the answer becomes a position of the plan. */
export function readingOf({ plan, request }: SheetPlan, focusLine: FocusLine): { label: string; toPosition: (value: number) => number } {
  const { optics, subject, mover } = request
  if (plan.hyperfocal_mm !== undefined && optics.kind === 'lens') {
    return { label: 'What the lens scale shows, in m', toPosition: (m) => fromSensor_mm(m * 1000, optics.focalLength_mm) }
  }
  if (movesCamera(mover.kind) && subject.kind === 'depth') {
    const [first] = focusLine.order
    return { label: 'Where the rail is, in mm from the first frame', toPosition: (mm) => focusLine.positionOf(first) + mm }
  }
  return { label: 'What is in focus, in mm from the near edge', toPosition: (mm) => mm }
}
