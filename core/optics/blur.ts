/** Default wavelength, mm (green, where the eye is keenest). */
export const DEFAULT_WAVELENGTH_MM = 0.00055

/**
 * Diameter of the diffraction blur on the sensor, in mm.
 * d = 1.22 λ N_w (Born & Wolf, *Principles of Optics*, Airy pattern: radius of the first dark ring).
 */
export function diffractionBlur_mm(workingFNumber: number, wavelength_mm = DEFAULT_WAVELENGTH_MM): number {
  return 1.22 * wavelength_mm * workingFNumber
}

/**
 * What diffraction leaves of the allowed blur for defocus, in mm: b = sqrt(c² − d²), and 0 where d ≥ c,
 * because then no focus series brings that sharpness back (Ray, *Applied Photographic Optics*).
 */
export function defocusAllowance_mm(coc_mm: number, diffraction_mm: number): number {
  return diffraction_mm >= coc_mm ? 0 : Math.sqrt(coc_mm ** 2 - diffraction_mm ** 2)
}

/**
 * Defocus blur diameter on the sensor, in mm, of a plane `offset_mm` away from the plane of focus at
 * magnification m: |offset| m² / N_w, the depth-of-field formula read the other way round (Kingslake).
 */
export function defocusBlur_mm(offset_mm: number, magnification: number, workingFNumber: number): number {
  return (Math.abs(offset_mm) * magnification ** 2) / workingFNumber
}

/** Defocus and diffraction together, as root of the sum of squares, in mm. */
export function totalBlur_mm(defocus_mm: number, diffraction_mm: number): number {
  return Math.hypot(defocus_mm, diffraction_mm)
}
