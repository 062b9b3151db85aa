import type { ClickCalibration, RailCalibration, StepCalibration } from '../learn'

/** What every item has. */
export interface KitRecord {
  /** Its number in the database; absent in exported kits. */
  id?: number
  name: string
}

/** A camera body. Optional facts are absent where the body cannot do the thing. */
export interface Body extends KitRecord {
  sensorWidth_mm: number
  sensorHeight_mm: number
  pixelsWide: number
  rawSize_MB: number
  /** Lens mount to sensor. */
  register_mm: number
  write_s: number
  framesPerCharge: number
  card_GB: number
  /** Sensor shift: captures to a frame, and how many times finer the pixels of the frame are. */
  shiftExposures?: number
  shiftFiner?: number
  /** Shutter speeds to a stop: 1, 2 or 3; 3 where it is not said. */
  shutterPerStop?: number
  /** The body's own focus bracketing: step numbers run from 1 to this, and so many frames at one go. */
  bracketSteps?: number
  bracketMost?: number
}

export interface Lens extends KitRecord {
  focalLength_mm: number
  /** Exit over entrance pupil diameter; 1 where unknown. */
  pupilRatio: number
  widestFNumber: number
  smallestFNumber: number
  /** Where the lens itself is sharpest in the middle of the picture, if that is known. */
  sharpestFNumber?: number
  /** Nearest focus, from the sensor. */
  nearest_mm: number
  /** Largest magnification by itself. */
  mostMagnification: number
  /** Mount to front rim. */
  length_mm: number
  /** Distances engraved on the focus scale, in metres: `0.25 0.3 0.5 1 ∞`; absent where there is none to set by. */
  scaleMarks?: string
  /** Breathing as a series showed it, in times that of a thin lens focused by extension. */
  breathing?: number
  /** How far its ring turns from infinity to nearest, and in how many clicks a focus drive goes there; absent where nobody knows. */
  ringTurn_deg?: number
  driveClicks?: number
}

export type AttachmentKind = 'tube' | 'bellows' | 'closeUp' | 'reverser' | 'objective'

/** What goes between body and lens, or before the lens; which facts count depends on the kind. */
export interface Attachment extends KitRecord {
  kind: AttachmentKind
  /** Tube, reverser: what it adds between body and lens. */
  extension_mm?: number
  /** Bellows: both ends of its travel. */
  shortest_mm?: number
  longest_mm?: number
  /** Close-up lens. */
  focalLength_mm?: number
  /** Objective. */
  designMagnification?: number
  designTube_mm?: number
  numericalAperture?: number
  workingDistance_mm?: number
}

export type RailKind = 'dial' | 'ruler' | 'motor'

/** A rail: turned by hand with marks on its dial, read by a ruler only, or driven by a motor. */
export interface Rail extends KitRecord {
  kind: RailKind
  length_mm: number
  backlash_mm: number
  settle_s: number
  /** Dial, motor: travel of one turn of the screw. */
  pitch_mm?: number
  /** Dial. */
  marksPerTurn?: number
  /** Ruler: distance of its marks. */
  division_mm?: number
  /** Motor. */
  stepsPerTurn?: number
  microsteps?: number
  feed_mmPerMin?: number
}

export type LightKind = 'daylight' | 'lamp' | 'flash'

export interface Light extends KitRecord {
  kind: LightKind
  /** Flash. */
  recycling_s?: number
  popsPerCharge?: number
}

export type CalibrationKind = 'step' | 'rail' | 'click'

/** A stride that a run or the printed sheet told: of a step number of a body's own bracketing, a rail by its dial, or clicks of a focus drive. */
export interface Calibration extends KitRecord {
  kind: CalibrationKind
  stride_mm: number
  spread_mm?: number
  /** Kept, and not planned with. */
  leftOut?: boolean
  body?: string
  lens?: string
  fNumber?: number
  magnification?: number
  step?: number
  rail?: string
  /** What the rail moved by its dial or its motor's steps. */
  dial_mm?: number
  clicks?: number
}

/** Everything a studio has. Names are unique on their shelf. */
export interface Kit {
  bodies: Body[]
  lenses: Lens[]
  attachments: Attachment[]
  rails: Rail[]
  lights: Light[]
  calibrations: Calibration[]
}

export type Shelf = keyof Kit
export type KitItem = Kit[Shelf][number]

/** The runs that tell of a body's step numbers, a rail, or a lens's focus drive, without those that are left out. */
export function stepRunsOf({ calibrations }: Kit, body: string): StepCalibration[] {
  return calibrations.filter((known): known is Calibration & StepCalibration => known.kind === 'step' && !known.leftOut && known.body === body)
}

export function railRunsOf({ calibrations }: Kit, rail: string): RailCalibration[] {
  return calibrations.filter((known): known is Calibration & RailCalibration => known.kind === 'rail' && !known.leftOut && known.rail === rail)
}

export function clickRunsOf({ calibrations }: Kit, lens: string): ClickCalibration[] {
  return calibrations.filter((known): known is Calibration & ClickCalibration => known.kind === 'click' && !known.leftOut && known.lens === lens)
}

/** The smallest step of a rail, in mm of travel. */
export function railStep_mm({ kind, pitch_mm, marksPerTurn, division_mm, stepsPerTurn, microsteps }: Rail): number {
  if (kind === 'dial') return pitch_mm! / marksPerTurn!
  return kind === 'ruler' ? division_mm! : pitch_mm! / (stepsPerTurn! * microsteps!)
}
