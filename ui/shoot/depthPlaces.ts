import type { Plan } from '@/core/plan'
import { rampPlace } from '@/core/ramp'

/**
 * Where frames lie on the depth ramp, so that they wear the colours of the ribbon: each by the planned frame nearest to its
 * focus. Where the focus of one is not known, or the plan no longer works, all go by their order. `near_mm` is where the near edge lies from the lens in a
 * plan by distances, 0 else.
 */
export function depthPlaces(positions_mm: (number | null)[], plan: Plan | undefined, near_mm: number): number[] {
  const byOrder = () => positions_mm.map((_, k) => rampPlace(k, positions_mm.length))
  if (!plan || positions_mm.some((position_mm) => position_mm === null)) return byOrder()
  const distances = plan.hyperfocal_mm !== undefined
  // Slices of a range are even in one over the distance.
  const planned = plan.frames.map(({ position_mm, focusDistance_mm }) => (distances ? 1 / focusDistance_mm! : position_mm!))
  return positions_mm.map((position_mm) => {
    const focus = distances ? 1 / (near_mm + position_mm!) : position_mm!
    const nearest = planned.reduce((best, place, k) => (Math.abs(place - focus) < Math.abs(planned[best] - focus) ? k : best), 0)
    return rampPlace(nearest, planned.length)
  })
}
