import type { Picture } from '../raster'

/**
 * The devices of a shoot as the application sees them. What ships with it are stand-ins; a real camera or rail is
 * connected by implementing the same few calls. All of them may take a while, and fail with a Refusal whose
 * sentence is shown as it is.
 */
export interface Devices {
  camera: Camera
  /** Absent where the focus is moved by the camera's own drive. */
  rail?: Rail
  /** Absent by lamp or daylight. */
  flash?: Flash
  remote: Remote
}

export interface CameraSettings {
  fNumber: number
  shutter_s: number
  iso: number
  /** Several captures a frame, the sensor shifted by parts of a pixel between them. */
  sensorShift: boolean
}

export interface CameraState extends CameraSettings {
  /** Where the focus drive stands, in its own steps, which have no unit; higher is farther away. */
  focusStep: number
  battery_percent: number
  /** Frames that the card still holds. */
  cardFrames: number
  /** Frames exposed since it was switched on. */
  exposed: number
}

/** Where live view looks: the spot that contrast is measured in, in parts of width and height, and whether magnified. */
export interface Look {
  spot: { x: number; y: number }
  magnifier: boolean
}

export interface LiveView {
  picture: Picture
  /** Fine contrast in the spot: larger is sharper; comparable from look to look at one spot. */
  contrast: number
}

export interface Exposure {
  picture: Picture
  /** What went into it, for the frame's EXIF. */
  settings: CameraSettings
  /** Where the plane of focus really was, from the subject's near edge; a real camera leaves it out. */
  position_mm?: number
}

export interface Camera {
  state(): Promise<CameraState>
  set(change: Partial<CameraSettings>): Promise<CameraState>
  driveFocus(steps: number): Promise<CameraState>
  liveView(look: Look): Promise<LiveView>
  /** Another battery, another card. */
  supply(what: 'battery' | 'card'): Promise<CameraState>
}

export interface RailState {
  /** Where its screw stands, from the first frame; play may keep the carriage behind. Positive is away from the camera. */
  position_mm: number
}

export interface Rail {
  state(): Promise<RailState>
  moveTo(position_mm: number): Promise<RailState>
}

export interface FlashState {
  /** Until it is charged, s; 0 where it is ready. */
  recycling_s: number
}

export interface Flash {
  state(): Promise<FlashState>
}

export interface Remote {
  /** Exposes one frame; `hand` holds a hand before the lens, as a divider. */
  press(hand?: boolean): Promise<Exposure>
}
