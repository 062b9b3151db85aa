import { movesCamera } from '../movers'
import { imageDistance_mm, subjectDistance_mm } from '../optics'
import type { CameraSetup } from '../simulate'

/** Steps to the depth of focus on the sensor's side: fine enough that no slice is missed. */
const STEPS_TO_A_FOCUS_DEPTH = 4
/** Blur that the drive's maker thought of, mm. */
const BLUR_mm = 0.02
/** The lens stops here, a little beyond far away. */
const FARTHEST_mm = 300_000

/**
 * The motor in a lens: every step moves the image distance by the same amount, so its steps are finer in depth for near
 * subjects than for far ones, and have no unit that anyone knows (thin lens, 1/f = 1/s + 1/v).
 */
export class FocusDrive {
  step = 0
  private readonly pupil_mm: number
  private readonly start: number
  private readonly stepOnSensor_mm: number
  private slipped = 0

  /** Stands at the plane `focus_mm`; the camera stays where it frames the plane `reference_mm`. Planes from the near edge. */
  constructor(
    private readonly camera: CameraSetup,
    reference_mm: number,
    focus_mm: number,
  ) {
    const rail = movesCamera(camera.mover)
    this.pupil_mm = (rail ? focus_mm : reference_mm) - subjectDistance_mm(camera.focalLength_mm, camera.magnification)
    this.start = this.imageOf(focus_mm)
    this.stepOnSensor_mm = (camera.fNumber * BLUR_mm) / STEPS_TO_A_FOCUS_DEPTH
  }

  /** Plane of focus from the near edge. */
  get focus_mm(): number {
    const { focalLength_mm: f } = this.camera
    const image = this.start - (this.step + this.slipped) * this.stepOnSensor_mm
    const distance = image <= f ? FARTHEST_mm : Math.min(FARTHEST_mm, (f * image) / (image - f))
    return this.pupil_mm + distance
  }

  /** Steps, whole ones, away from the camera. */
  move(steps: number): void {
    this.step += Math.round(steps)
  }

  /** Steps from where it stands to a plane of focus. */
  stepsTo(focus_mm: number): number {
    return Math.round((this.start - this.imageOf(focus_mm)) / this.stepOnSensor_mm) - this.step
  }

  /** It goes to another plane without its step number telling. */
  slipTo(focus_mm: number): void {
    this.slipped = this.stepsTo(focus_mm)
  }

  private imageOf(focus_mm: number): number {
    return imageDistance_mm(this.camera.focalLength_mm, focus_mm - this.pupil_mm)
  }
}
