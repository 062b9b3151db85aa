/** One frame of a plan. `near_mm`…`far_mm` is its slice, in the coordinates of the subject. */
export interface PlannedFrame {
  index: number
  near_mm: number
  far_mm: number
  /** Depth subject: plane of focus from the subject's near edge, away from the camera. */
  position_mm?: number
  /** Depth subject: how far the mover has gone since the first frame. */
  travel_mm?: number
  /** Range subject: plane of focus from the front principal plane. */
  focusDistance_mm?: number
  /** Range subject: the same as the lens scale shows it, from the sensor plane. */
  scaleDistance_mm?: number
}

export interface PlanNote {
  code: string
  text: string
}

export interface SingleFrame {
  possible: boolean
  /** The widest marked aperture that does it alone, if one does. */
  fNumber: number | null
  reason: string
}

/** A plan. Infinity stands for a slice without end and becomes `null` in JSON. */
export interface Plan {
  coc_mm: number
  diffraction_mm: number
  magnification: number
  workingFNumber: number
  depthOfField_mm: number
  stride_mm: number
  overlap: number
  frameCount: number
  frames: PlannedFrame[]
  singleFrame: SingleFrame
  duration_s: number
  storage_MB: number
  edgeLoss_percent: number
  workingDistance_mm: number
  hyperfocal_mm?: number
  notes: PlanNote[]
}
