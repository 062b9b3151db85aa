import { bendFrom } from '@/core/formats'
import type { Bend, Similarity } from '@/core/raster'
import { gainOf } from '@/core/register'
import type { Registration } from './registration'

/** How one frame lies on the reference. */
export interface FramePlace {
  motion: Similarity
  bend?: Bend
  gain: number
}

/** Motion, bend and brightness of a frame; undefined where it is not part of the picture. */
export function placeOf({ frames, bends }: Registration, file: string): FramePlace | undefined {
  const frame = frames.find((other) => other.file === file)
  if (!frame || frame.role === 'left out') return undefined
  const { scale, rotation_deg, dx_px, dy_px, gain_ev } = frame
  return { motion: { scale, rotation_rad: (rotation_deg * Math.PI) / 180, dx_px, dy_px }, bend: bendFrom(bends, file), gain: gainOf(gain_ev) }
}
