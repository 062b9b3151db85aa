import type { Plan } from '../reply'

/**
 * The positions of a plan as CSV (RFC 4180): one line a frame, units in the head, decimal points. Infinity is an empty
 * field.
 */
export function planCsv({ frames, hyperfocal_mm }: Plan): string {
  const columns =
    hyperfocal_mm === undefined
      ? (['index', 'travel_mm', 'position_mm', 'near_mm', 'far_mm'] as const)
      : (['index', 'scaleDistance_mm', 'focusDistance_mm', 'near_mm', 'far_mm'] as const)
  const lines = frames.map((frame) => columns.map((column) => field(frame[column])).join(','))
  return [columns.join(','), ...lines, ''].join('\r\n')
}

function field(value: number | undefined): string {
  return value === undefined || !Number.isFinite(value) ? '' : String(Number(value.toFixed(6)))
}
