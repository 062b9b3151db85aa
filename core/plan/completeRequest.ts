import { NO_TIMING, type PlanRequest } from './request'

/**
 * A checked plan request with its defaults: `null` becomes Infinity, and a depth gets a slice of lead-in and run-out
 * where nothing is said (a range gets none: its ends were measured, not guessed).
 */
export function completePlanRequest(value: PlanRequest): PlanRequest {
  const margin = value.subject.kind === 'depth' ? 1 : 0
  const subject = value.subject.kind === 'range' ? { ...value.subject, far_mm: value.subject.far_mm ?? Infinity } : value.subject
  const timing = { ...NO_TIMING, ...value.timing }
  return { ...value, subject, timing, leadIn_slices: value.leadIn_slices ?? margin, runOut_slices: value.runOut_slices ?? margin }
}
