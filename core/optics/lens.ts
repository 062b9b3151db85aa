/** Working f-number N_w = N (1 + m/P) (Allen & Triantaphillidou, *The Manual of Photography*, 10th ed.). */
export function workingFNumber(fNumber: number, magnification: number, pupilRatio = 1): number {
  return fNumber * (1 + magnification / pupilRatio)
}

/** The marked f-number that gives a working f-number at magnification m: the inverse of {@link workingFNumber}. */
export function markedFNumber(working: number, magnification: number, pupilRatio = 1): number {
  return working / (1 + magnification / pupilRatio)
}

/** Numerical aperture on the subject's side: NA = m / (2 N_w) (Inoué & Spring, *Video Microscopy*, 2nd ed.). */
export function numericalAperture(magnification: number, workingNumber: number): number {
  return magnification / (2 * workingNumber)
}

/** Front principal plane to subject, in mm, of a thin lens at magnification m: s = f (1 + 1/m). */
export function subjectDistance_mm(focalLength_mm: number, magnification: number): number {
  return focalLength_mm * (1 + 1 / magnification)
}

/** Rear principal plane to sensor, in mm, for a subject at s: v = f s / (s − f); f for s = ∞. */
export function imageDistance_mm(focalLength_mm: number, subject_mm: number): number {
  return Number.isFinite(subject_mm) ? (focalLength_mm * subject_mm) / (subject_mm - focalLength_mm) : focalLength_mm
}

/** Magnification of a thin lens focused at s: m = f / (s − f). */
export function magnificationAt(focalLength_mm: number, subject_mm: number): number {
  return Number.isFinite(subject_mm) ? focalLength_mm / (subject_mm - focalLength_mm) : 0
}

/** Magnification with added extension e (tubes or bellows): m = m₀ + e/f. */
export function magnificationWithExtension(base: number, extension_mm: number, focalLength_mm: number): number {
  return base + extension_mm / focalLength_mm
}

/** Magnification of a close-up lens of focal length f_c before a lens of focal length f set to infinity: m = f / f_c. */
export function magnificationWithCloseUp(focalLength_mm: number, closeUpFocalLength_mm: number): number {
  return focalLength_mm / closeUpFocalLength_mm
}

/** First estimate for a reversed lens: its register distance plus extension, over its focal length. */
export function magnificationReversed(register_mm: number, extension_mm: number, focalLength_mm: number): number {
  return (register_mm + extension_mm) / focalLength_mm
}

/** Magnification of two lenses face to face, both set to infinity: m = f_rear / f_front. */
export function magnificationFaceToFace(rearFocalLength_mm: number, frontFocalLength_mm: number): number {
  return rearFocalLength_mm / frontFocalLength_mm
}

/** Magnification measured from a picture of a ruler: sensor width / ruler millimetres across the frame. */
export function magnificationFromRuler(sensorWidth_mm: number, rulerAcrossFrame_mm: number): number {
  return sensorWidth_mm / rulerAcrossFrame_mm
}

/** Magnification of an objective whose tube lens is not the one it was designed for: m = design m × tube / design tube. */
export function objectiveMagnification(design: number, tube_mm: number, designTube_mm: number): number {
  return (design * tube_mm) / designTube_mm
}

/**
 * Sensor to the plane of focus, in mm: f (2 + m + 1/m) of a thin lens, and c·m for what this lens differs by. A lens that shortens its
 * focal length to focus near has a negative c; `closing_mm` gives it from a known nearest focus.
 */
export function sensorDistance_mm(focalLength_mm: number, magnification: number, closing = 0): number {
  return focalLength_mm * (2 + magnification + 1 / magnification) + closing * magnification
}

/** How a lens differs from a thin one by {@link sensorDistance_mm}, from its nearest focus and the magnification there, in mm. */
export function closing_mm(focalLength_mm: number, nearest_mm: number, mostMagnification: number): number {
  return (nearest_mm - sensorDistance_mm(focalLength_mm, mostMagnification)) / mostMagnification
}

/** The inverse of {@link sensorDistance_mm}, for a lens focused by itself; NaN where nothing so near can be in focus. */
export function magnificationFromSensor(focalLength_mm: number, distance_mm: number, closing = 0): number {
  const [a, b] = [focalLength_mm + closing, distance_mm - 2 * focalLength_mm]
  if (Math.abs(a) < 1e-9) return focalLength_mm / b
  return (b - Math.sqrt(b * b - 4 * a * focalLength_mm)) / (2 * a)
}
