import { movesCamera } from '../movers'
import { magnificationAt } from '../optics'
import { effectiveFocalLength_mm, pupilDistance_mm, workingDistance_mm, type PlanRequest } from '../plan'

/** How large a pixel of the picture is on the subject, which goes with the depth; in mm from the near edge, away from the camera. */
export interface PixelSize {
  /** Of the subject, at the depth `at_mm`. */
  size_mm: number
  at_mm: number
  /** How far in front of that depth the entrance pupil is; absent where every depth counts alike. */
  pupil_mm?: number
}

/** How many mm of the subject a pixel shows at a depth. */
export const pixelAt = ({ size_mm, at_mm, pupil_mm }: PixelSize, z_mm: number): number =>
  pupil_mm === undefined ? size_mm : size_mm * (1 + (z_mm - at_mm) / pupil_mm)

/**
 * Pixel sizes in a picture `width_px` wide that is framed by a frame focused at `reference_mm`. What lies farther away is pictured smaller:
 * sizes go with the distance from the entrance pupil (Ray, asymmetrical lenses). A rail takes the magnification of the plan along to the
 * frame's plane of focus; with the ring it is that of the near edge, and the lens images the frame's plane as a thin one does. Behind an
 * objective nothing is known of the pupil, and every depth counts alike. `undefined` where the plan names no magnification.
 */
export function pixelSizeOf({ camera, optics, mover, subject }: PlanRequest, width_px: number, reference_mm: number): PixelSize | undefined {
  const pitch_mm = camera.sensorWidth_mm / width_px
  if (optics.kind === 'objective') {
    const magnification = (optics.designMagnification * optics.tube_mm) / optics.designTube_mm
    return { size_mm: pitch_mm / magnification, at_mm: reference_mm }
  }
  if (subject.kind === 'range') {
    const focus_mm = subject.near_mm + reference_mm
    const size_mm = pitch_mm / magnificationAt(optics.focalLength_mm, focus_mm)
    return { size_mm, at_mm: reference_mm, pupil_mm: focus_mm }
  }
  const { magnification } = optics
  if (!magnification) return undefined
  const pupil_mm = pupilDistance_mm(optics, magnification)
  if (movesCamera(mover.kind)) return { size_mm: pitch_mm / magnification, at_mm: reference_mm, pupil_mm }
  const focalLength_mm = effectiveFocalLength_mm(optics, magnification)
  const there = magnificationAt(focalLength_mm, workingDistance_mm(optics, magnification) + reference_mm)
  return { size_mm: pitch_mm / there, at_mm: reference_mm, pupil_mm: pupil_mm + reference_mm }
}
