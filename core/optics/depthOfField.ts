import { DEFAULT_WAVELENGTH_MM } from './blur'

/** Geometric depth of field close up, in mm: D = 2 b N_w / m² (Kingslake, *Optics in Photography*). */
export function geometricDepth_mm(allowance_mm: number, workingNumber: number, magnification: number): number {
  return (2 * allowance_mm * workingNumber) / magnification ** 2
}

/**
 * The least depth a slice can have in wave optics, in mm: D_w = n λ / NA²
 * (Inoué & Spring, *Video Microscopy*, 2nd ed.). `refractiveIndex` is that of the medium around the subject.
 */
export function waveDepth_mm(aperture: number, wavelength_mm = DEFAULT_WAVELENGTH_MM, refractiveIndex = 1): number {
  return (refractiveIndex * wavelength_mm) / aperture ** 2
}

/** Depth of field of a microscope objective, in mm: D = n λ / NA² + n c / (m NA) (Inoué & Spring). */
export function objectiveDepth_mm(
  aperture: number,
  magnification: number,
  coc_mm: number,
  wavelength_mm = DEFAULT_WAVELENGTH_MM,
  refractiveIndex = 1,
): number {
  return waveDepth_mm(aperture, wavelength_mm, refractiveIndex) + (refractiveIndex * coc_mm) / (magnification * aperture)
}

/** Hyperfocal distance from the front principal plane, in mm: H = f² / (N b) + f; Infinity where b is 0. */
export function hyperfocal_mm(focalLength_mm: number, fNumber: number, allowance_mm: number): number {
  return focalLength_mm ** 2 / (fNumber * allowance_mm) + focalLength_mm
}

/** Nearest sharp distance for focus at s, in mm: s (H − f) / (H + s − 2f); H − f for s = ∞. */
export function nearLimit_mm(focus_mm: number, hyperfocal: number, focalLength_mm: number): number {
  if (!Number.isFinite(focus_mm)) return hyperfocal - focalLength_mm
  return (focus_mm * (hyperfocal - focalLength_mm)) / (hyperfocal + focus_mm - 2 * focalLength_mm)
}

/** Farthest sharp distance for focus at s, in mm: s (H − f) / (H − s), Infinity for s ≥ H. */
export function farLimit_mm(focus_mm: number, hyperfocal: number, focalLength_mm: number): number {
  return focus_mm >= hyperfocal ? Infinity : (focus_mm * (hyperfocal - focalLength_mm)) / (hyperfocal - focus_mm)
}

/** The focus whose near limit is `near_mm`: the inverse of {@link nearLimit_mm}; Infinity where none is needed nearer. */
export function focusForNear_mm(near_mm: number, hyperfocal: number, focalLength_mm: number): number {
  const denominator = hyperfocal - focalLength_mm - near_mm
  return denominator <= 0 ? Infinity : (near_mm * (hyperfocal - 2 * focalLength_mm)) / denominator
}

/** The focus whose far limit is `far_mm`: the inverse of {@link farLimit_mm}; H for `far_mm` = ∞. */
export function focusForFar_mm(far_mm: number, hyperfocal: number, focalLength_mm: number): number {
  if (!Number.isFinite(far_mm)) return hyperfocal
  return (far_mm * hyperfocal) / (hyperfocal - focalLength_mm + far_mm)
}

/** What a lens scale shows for focus at s, in mm from the sensor plane: s + v (thin lens). */
export function scaleDistance_mm(focus_mm: number, focalLength_mm: number): number {
  return Number.isFinite(focus_mm) ? focus_mm + (focalLength_mm * focus_mm) / (focus_mm - focalLength_mm) : Infinity
}

/**
 * Distance from the front principal plane for a distance t from the sensor plane, in mm: the larger root of
 * s² − t s + f t = 0. NaN where the lens cannot form an image that close (t < 4 f).
 */
export function fromSensor_mm(sensorDistance_mm: number, focalLength_mm: number): number {
  if (!Number.isFinite(sensorDistance_mm)) return Infinity
  const discriminant = sensorDistance_mm ** 2 - 4 * focalLength_mm * sensorDistance_mm
  return discriminant < 0 ? NaN : (sensorDistance_mm + Math.sqrt(discriminant)) / 2
}
