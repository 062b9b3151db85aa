import { allowedBlur_mm } from './sharpness'
import type { Camera, Sharpness } from './request'

/** Half a metre: the distance at which a print in the hand or on a desk is looked at. */
const DESK_mm = 500
const ARC_MINUTE_RAD = Math.PI / 180 / 60

/** What a criterion means, said plainly: in pixels, and in the largest print that still looks sharp. */
export function criterionMeaning(sharpness: Sharpness, camera: Camera): string {
  const coc_mm = allowedBlur_mm(sharpness, camera)
  const pixels = (coc_mm * camera.pixelsWide) / camera.sensorWidth_mm
  const print_cm = ((DESK_mm * Math.tan(ARC_MINUTE_RAD)) / coc_mm) * (camera.sensorWidth_mm / 10)
  const blur = `${Number(pixels.toPrecision(2))} ${pixels.toPrecision(2) === '1.0' ? 'pixel' : 'pixels'}`
  const print = `a print up to ${print_cm >= 10 ? Math.round(print_cm) : Number(print_cm.toPrecision(2))} cm wide looks sharp from half a metre`
  if (pixels <= 2) return `Sharp at 100 %: the blur is no wider than ${blur}; ${print}.`
  if (pixels <= 5) return `Nearly sharp at 100 %, where slices meet ${blur} wide; ${print}.`
  return `Acceptably sharp, not at 100 %: ${blur} wide where slices meet; ${print}.`
}
