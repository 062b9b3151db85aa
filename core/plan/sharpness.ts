import {
  cocFromPixels_mm,
  cocFromPrint_mm,
  defocusAllowance_mm,
  diffractionBlur_mm,
  geometricDepth_mm,
  objectiveDepth_mm,
  objectiveMagnification,
  workingFNumber,
} from '../optics'
import type { Camera, LensOptics, ObjectiveOptics, PlanRequest, Sharpness } from './request'

/** The sharpness a plan works with, for one aperture and magnification. Lengths in mm. */
export interface SliceOptics {
  magnification: number
  workingFNumber: number
  coc_mm: number
  diffraction_mm: number
  /** Blur that defocus may use up: what diffraction leaves, or what wave optics blurs anyway if that is more. */
  allowance_mm: number
  /** Depth of field in the plane of focus; Infinity at magnification 0. */
  depthOfField_mm: number
  /** Diffraction alone already exceeds the criterion. */
  beyondReach: boolean
  /** Wave optics, not geometry, sets the slice. */
  waveLimited: boolean
}

/** The allowed blur diameter on the sensor, in mm. */
export function allowedBlur_mm(sharpness: Sharpness, camera: Camera): number {
  if (sharpness.kind === 'coc') return sharpness.coc_mm
  if (sharpness.kind === 'pixels') return cocFromPixels_mm(sharpness.count, camera.sensorWidth_mm, camera.pixelsWide)
  return cocFromPrint_mm(sharpness.width_mm, sharpness.viewingDistance_mm, camera.sensorWidth_mm)
}

/** Working f-number of a lens at magnification m; the marked one where an attachment gives the magnification. */
export function workingFNumberOf({ fNumber, pupilRatio, attachment }: LensOptics, magnification: number): number {
  return attachment ? fNumber : workingFNumber(fNumber, magnification, pupilRatio)
}

type Conditions = Pick<PlanRequest, 'sharpness' | 'camera' | 'diffraction' | 'wavelength_nm'>

/**
 * Sharpness of a lens at magnification m. The wave floor D_w = λ/NA² is a slice with allowance 2 λ N_w, so one
 * allowance serves both (Inoué & Spring); the classical figure leaves both out.
 */
export function lensOptics(lens: LensOptics, magnification: number, conditions: Conditions): SliceOptics {
  const coc_mm = allowedBlur_mm(conditions.sharpness, conditions.camera)
  const wavelength_mm = conditions.wavelength_nm / 1e6
  const working = workingFNumberOf(lens, magnification)
  const diffraction_mm = conditions.diffraction ? diffractionBlur_mm(working, wavelength_mm) : 0
  const geometric = defocusAllowance_mm(coc_mm, diffraction_mm)
  const wave = conditions.diffraction ? 2 * wavelength_mm * working : 0
  const allowance_mm = Math.max(geometric, wave)
  return {
    magnification,
    workingFNumber: working,
    coc_mm,
    diffraction_mm,
    allowance_mm,
    depthOfField_mm: magnification > 0 ? geometricDepth_mm(allowance_mm, working, magnification) : Infinity,
    beyondReach: diffraction_mm >= coc_mm,
    waveLimited: wave > geometric,
  }
}

/** Sharpness of a microscope objective on its tube. */
export function objectiveOptics(objective: ObjectiveOptics, conditions: Conditions): SliceOptics {
  const coc_mm = allowedBlur_mm(conditions.sharpness, conditions.camera)
  const wavelength_mm = conditions.wavelength_nm / 1e6
  const magnification = objectiveMagnification(objective.designMagnification, objective.tube_mm, objective.designTube_mm)
  const working = magnification / (2 * objective.numericalAperture)
  const diffraction_mm = conditions.diffraction ? diffractionBlur_mm(working, wavelength_mm) : 0
  const depthOfField_mm = conditions.diffraction
    ? objectiveDepth_mm(objective.numericalAperture, magnification, coc_mm, wavelength_mm)
    : geometricDepth_mm(coc_mm, working, magnification)
  return {
    magnification,
    workingFNumber: working,
    coc_mm,
    diffraction_mm,
    allowance_mm: defocusAllowance_mm(coc_mm, diffraction_mm),
    depthOfField_mm,
    beyondReach: diffraction_mm >= coc_mm,
    waveLimited: depthOfField_mm > 2 * geometricDepth_mm(coc_mm, working, magnification),
  }
}
