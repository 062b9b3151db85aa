import type { ShootDetail } from '@/schemas'
import { useUnits } from './units'

/** Where a frame was focused, as its shoot's ribbon counts: from the near edge, or from the lens where it was planned by distances. */
export function useFocusText({ planRequest }: Pick<ShootDetail, 'planRequest'>): (position_mm: number) => string {
  const { length, place } = useUnits()
  const subject = planRequest?.subject
  return subject?.kind === 'range' ? (position_mm) => length(subject.near_mm + position_mm) : place
}
