import type { FuseReport } from '@/schemas'

/** Where a picture lies in the view: units of the fused picture's width, its upper left corner at 0, 0. */
export interface Placement {
  x: number
  y: number
  width: number
  /** Turned about its own middle, clockwise. */
  degrees: number
}

export const FUSED: Placement = { x: 0, y: 0, width: 1, degrees: 0 }

/**
 * Where frame `index` lies so that it coincides with the fused picture: the registration, read the other way round.
 * A frame of w px shows reference pixels C + (1/s) R(−θ)(q − C − d).
 */
export function placementOf({ frames, crop }: Pick<FuseReport, 'frames' | 'crop'>, index: number, width_px: number, height_px: number): Placement {
  const { scale, rotation_deg, dx_px, dy_px } = frames[index]
  const turn = (-rotation_deg * Math.PI) / 180
  const middleX = width_px / 2 - (Math.cos(turn) * dx_px - Math.sin(turn) * dy_px) / scale
  const middleY = height_px / 2 - (Math.sin(turn) * dx_px + Math.cos(turn) * dy_px) / scale
  return {
    x: (middleX - width_px / scale / 2 - crop.x) / crop.width,
    y: (middleY - height_px / scale / 2 - crop.y) / crop.width,
    width: width_px / scale / crop.width,
    degrees: -rotation_deg,
  }
}

/**
 * Where another render of the same frames lies: as its reference frame does, cut as it is. The same cut may lie elsewhere where
 * the two were framed by different frames. Nothing where its reference is not a frame of this render.
 */
export function placementOfRender(
  report: Pick<FuseReport, 'frames' | 'crop'>,
  other: Pick<FuseReport, 'reference' | 'crop'>,
  { width, height }: { width: number; height: number },
): Placement | undefined {
  const index = report.frames.findIndex(({ file }) => file === other.reference)
  if (index < 0) return undefined
  const whole = placementOf(report, index, width, height)
  const unit = whole.width / width
  // From the middle of the frame to the middle of the cut, turned as the frame is.
  const { crop } = other
  const [x, y] = [(crop.x + crop.width / 2 - width / 2) * unit, (crop.y + crop.height / 2 - height / 2) * unit]
  const turn = (whole.degrees * Math.PI) / 180
  const middleX = whole.x + (width * unit) / 2 + Math.cos(turn) * x - Math.sin(turn) * y
  const middleY = whole.y + (height * unit) / 2 + Math.sin(turn) * x + Math.cos(turn) * y
  return { ...whole, x: middleX - (crop.width * unit) / 2, y: middleY - (crop.height * unit) / 2, width: crop.width * unit }
}
