import type { Rectangle } from '../raster'
import type { Stroke } from './edits'

/** What a suggestion paints: a little beyond its rectangle, and soft there. */
const BEYOND = 1.15
const SOFTNESS = 0.3

/** The stroke that covers a rectangle, along its longer side. */
export function strokeOver({ x, y, width, height }: Rectangle): Stroke {
  const half = Math.min(width, height) / 2
  const [cx, cy] = [x + width / 2 - 0.5, y + height / 2 - 0.5]
  const along = Math.max(width, height) / 2 - half
  const ends: [number, number][] =
    width >= height
      ? [
          [cx - along, cy],
          [cx + along, cy],
        ]
      : [
          [cx, cy - along],
          [cx, cy + along],
        ]
  return { path: along > 0 ? ends : [ends[0]], radius_px: half * BEYOND, softness: SOFTNESS, opacity: 1 }
}
