import { placeBehind, type Homography } from './homography'

/** How a sheet lies before the camera. */
export interface Pose {
  /** Between the sheet and the plane of the sensor. */
  tilt_rad: number
  /** Direction on the sheet along which it falls away from the camera, of length 1. */
  away: [u: number, s: number]
  /** The place in the middle of the picture. */
  middle: [u: number, s: number]
  /** Px of the picture for one pitch there, across the slant. */
  pitch_px: number
}

/**
 * The pose of a sheet from its homography onto a picture. In the middle of the picture a plane is imaged as by parallel light: its circles
 * become ellipses whose short side is the cosine of the tilt. So nothing need be known of the lens. That the middle is where the axis meets
 * the sensor is taken as given. Undefined where the sheet lies so nearly parallel to the sensor that its slant cannot be told.
 * Source: Hartley & Zisserman, 8.1 (planes under perspective).
 */
export function poseOf(homography: Homography, width_px: number, height_px: number): Pose | undefined {
  const [a, b, c, d, e, f, g, h] = homography
  const middle = placeBehind(homography, (width_px - 1) / 2, (height_px - 1) / 2)
  const [u, s] = middle
  const w = g * u + h * s + 1
  const [x, y] = [(a * u + b * s + c) / w, (d * u + e * s + f) / w]
  // How the place in the picture changes with the place on the sheet.
  const [xu, xs, yu, ys] = [(a - x * g) / w, (b - x * h) / w, (d - y * g) / w, (e - y * h) / w]
  const [uu, us, ss] = [xu * xu + yu * yu, xu * xs + yu * ys, xs * xs + ys * ys]
  const [half, root] = [(uu + ss) / 2, Math.sqrt(((uu - ss) / 2) ** 2 + us * us)]
  const [long, short] = [Math.sqrt(half + root), Math.sqrt(Math.max(0, half - root))]
  const turned = Math.atan2(2 * us, uu - ss) / 2
  // The short side's direction; what is farther away has the larger weight.
  const steep: [number, number] = [-Math.sin(turned), Math.cos(turned)]
  const falls = (g * steep[0] + h * steep[1]) / w
  if (!(short / long < LEAST_slant) || falls === 0) return undefined
  const away: [number, number] = falls > 0 ? steep : [-steep[0], -steep[1]]
  return { tilt_rad: Math.acos(short / long), away, middle, pitch_px: long }
}

/** Below a tilt of some 14° a small error of the cosine is a large one of the slant. */
const LEAST_slant = 0.97

/** How far a place of the sheet lies behind another, in pitches along the axis. */
export function behind(
  { tilt_rad, away }: Pick<Pose, 'tilt_rad' | 'away'>,
  [u, s]: [number, number],
  [fromU, fromS]: [number, number] = [0, 0],
): number {
  return Math.sin(tilt_rad) * ((u - fromU) * away[0] + (s - fromS) * away[1])
}
