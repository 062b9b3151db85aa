import type { Lens } from '../kit'
import { magnificationAt } from '../optics'
import type { PlannedFrame } from '../plan'
import { significant } from '../units'
import type { Gear } from './gear'

/**
 * How a lens is set that has no usable scale: counted from where it stood at the first frame, in turns of its ring or clicks of its drive.
 * Both go evenly with the magnification, m = f / (u − f), as the extension f · m does.
 */
export interface RingSteps {
  title: string
  /** What to go from the first frame on, and how much of it is new since the frame `before`, where that is known. */
  reading(first: number, now: number, before?: number): string
}

/** A ring is set by hand to about half a degree. */
const FINEST_deg = 0.5

/** By clicks where the drive is known, else by the ring's turn; undefined where nothing is known of either. */
export function ringStepsOf({ lens, perClick }: Pick<Gear, 'lens' | 'perClick'>): RingSteps | undefined {
  if (perClick) return { title: 'Clicks, from the first frame', reading: counted(perClick, 1, '') }
  const perDegree = lens.ringTurn_deg && lens.mostMagnification / lens.ringTurn_deg
  return perDegree ? { title: 'Ring, from the first frame', reading: counted(perDegree, FINEST_deg, '°') } : undefined
}

/** @param each what one step changes the magnification by; `finest` is what a reading is rounded to, always from the first frame. */
function counted(each: number, finest: number, unit: string): RingSteps['reading'] {
  const steps = (first: number, now: number) => finest * Math.round(Math.abs(now - first) / each / finest)
  return (first, now, before) => {
    const all = steps(first, now)
    if (all === 0) return 'as it stands'
    const more = before === undefined || before === first ? '' : `, ${significant(all - steps(first, before), 4)}${unit} more`
    return `${significant(all, 5)}${unit} ${now < first ? 'towards ∞' : 'nearer'}${more}`
  }
}

/** A click's way on the subject where it is focused so: f · Δm / m². */
export const clickWay_mm = (perClick: number, { focalLength_mm }: Lens, magnification: number): number =>
  (perClick * focalLength_mm) / magnification ** 2

/** The magnification at which a frame is focused. @param nearest_mm from the lens to the subject's near edge, where the subject has depth. */
export function magnificationOf({ position_mm, focusDistance_mm }: PlannedFrame, focalLength_mm: number, nearest_mm: number): number {
  return magnificationAt(focalLength_mm, focusDistance_mm ?? nearest_mm + position_mm!)
}
