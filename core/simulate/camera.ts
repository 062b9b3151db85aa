import { movesCamera, type MoverKind } from '../movers'
import { imageDistance_mm, subjectDistance_mm, workingFNumber } from '../optics'
import type { Similarity } from '../raster'

/** The simulated camera and how it is moved. Lengths in mm. */
export interface CameraSetup {
  sensorWidth_mm: number
  width_px: number
  height_px: number
  focalLength_mm: number
  fNumber: number
  /** Magnification in the plane of focus of the middle of the series. */
  magnification: number
  mover: MoverKind
  /** Deviation of the blur that the lens's own faults leave in focus at f/1, mm on the sensor; it falls with the cube of the f-number. A faultless lens where absent. */
  spherical_mm?: number
}

/** One exposure: where the camera stands and what it is focused on. */
export interface View {
  /** z of the entrance pupil. */
  pupilZ: number
  /** z of the plane of focus. */
  focusZ: number
  /** Image distance, mm. */
  image_mm: number
  aperture_mm: number
  pitch_mm: number
  /** Half the picture's diagonal: how far out a change of scale is felt. */
  widest_px: number
  /** Small movement of the picture on the sensor: a tripod that was touched. */
  jitter: Similarity
  /** How far the camera was pushed to the right and down: near things move more in the picture than far ones. */
  aside_mm: [number, number]
}

/**
 * The view focused on z = `focusZ`. On a rail the whole camera moves and the focus stays; with the ring the camera
 * stays where it frames `referenceZ` and the image distance changes (breathing). The lens is a thin one.
 */
export function viewAt(setup: CameraSetup, focusZ: number, referenceZ: number, jitter: Similarity, aside_mm: [number, number] = [0, 0]): View {
  const distance = subjectDistance_mm(setup.focalLength_mm, setup.magnification)
  const pupilZ = (movesCamera(setup.mover) ? focusZ : referenceZ) - distance
  return {
    pupilZ,
    focusZ,
    image_mm: imageDistance_mm(setup.focalLength_mm, focusZ - pupilZ),
    aperture_mm: setup.focalLength_mm / setup.fNumber,
    pitch_mm: setup.sensorWidth_mm / setup.width_px,
    widest_px: Math.hypot(setup.width_px, setup.height_px) / 2,
    jitter,
    aside_mm,
  }
}

/** Diameter of the defocus blur, in px, of a point at depth z: A v |1/s − 1/Z| (thin lens; Kingslake). */
export function blur_px({ pupilZ, focusZ, image_mm, aperture_mm, pitch_mm }: View, z: number): number {
  return (aperture_mm * image_mm * Math.abs(1 / (focusZ - pupilZ) - 1 / (z - pupilZ))) / pitch_mm
}

/** Pixels per mm of the subject at depth z, before jitter. */
export function pixelsPer_mm({ image_mm, pupilZ, pitch_mm }: View, z: number): number {
  return image_mm / (z - pupilZ) / pitch_mm
}

/** Deviation of what the lens's own faults blur in focus, in px: spherical aberration of the third order goes with the aperture's cube (Ray). */
export function spherical_px({ spherical_mm = 0, fNumber, sensorWidth_mm, width_px }: CameraSetup): number {
  return (spherical_mm / fNumber ** 3) * (width_px / sensorWidth_mm)
}

/** Deviation of the diffraction blur as a Gaussian, in px: 0.42 λ N_w (Airy's central lobe). */
export function diffraction_px(setup: CameraSetup): number {
  const working = workingFNumber(setup.fNumber, setup.magnification)
  return (0.42 * 0.00055 * working) / (setup.sensorWidth_mm / setup.width_px)
}
