const ARC_MINUTE_RAD = Math.PI / 180 / 60

/** Allowed blur from pixels: count × pixel pitch, in mm. */
export function cocFromPixels_mm(count: number, sensorWidth_mm: number, pixelsWide: number): number {
  return (count * sensorWidth_mm) / pixelsWide
}

/**
 * Allowed blur on the sensor, in mm, so that it subtends one minute of arc in a print:
 * c = viewing distance × tan(1′) / enlargement (Ray, *Applied Photographic Optics*, 3rd ed.).
 */
export function cocFromPrint_mm(printWidth_mm: number, viewingDistance_mm: number, sensorWidth_mm: number): number {
  const enlargement = printWidth_mm / sensorWidth_mm
  return (viewingDistance_mm * Math.tan(ARC_MINUTE_RAD)) / enlargement
}
