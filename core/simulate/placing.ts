import { invert } from '../raster'
import { WIDEST } from '../raster/kernels'
import type { CameraSetup, View } from './camera'
import type { SampledScene } from './sampledScene'

/** How a view sees what was sampled from another. */
export interface Placing {
  /** Samples of the scene per pixel of this view: `ratio` × (1 + `nearer` × the inverse distance it was sampled at). */
  ratio: number
  nearer: number
  /** A camera pushed aside sees a place so many samples × inverse distance farther to the right and down. */
  aside: [number, number]
  /** Radius of its blur at 1 / (inverse distance), px: `blur` × |`focus` − inverse distance in this view|. */
  blur: number
  focus: number
  /** A pixel, from the picture's first, as a place in the picture before it was moved by accident, from the centre. */
  origin: (x: number, y: number) => [number, number]
  /** What a step to the right and a step down are there. */
  stepX: [number, number]
  stepY: [number, number]
}

export function placing({ view: sampled, density }: SampledScene, setup: CameraSetup, view: View, [driftX, driftY]: [number, number]): Placing {
  const back = invert(view.jitter)
  const samplesByDistance = (sampled.image_mm * density) / sampled.pitch_mm
  const cos = back.scale * Math.cos(back.rotation_rad)
  const sin = back.scale * Math.sin(back.rotation_rad)
  return {
    // (image₀ / Z₀) over (image / Z), with Z = Z₀ + what the camera has moved.
    ratio: (samplesByDistance / view.image_mm) * view.pitch_mm,
    nearer: sampled.pupilZ - view.pupilZ,
    aside: [(view.aside_mm[0] - sampled.aside_mm[0]) * samplesByDistance, (view.aside_mm[1] - sampled.aside_mm[1]) * samplesByDistance],
    blur: (view.aperture_mm * view.image_mm) / view.pitch_mm / 2,
    focus: 1 / (view.focusZ - view.pupilZ),
    origin: (x, y) => {
      const px = x - (setup.width_px - 1) / 2
      const py = y - (setup.height_px - 1) / 2
      return [cos * px - sin * py + back.dx_px - driftX, sin * px + cos * py + back.dy_px - driftY]
    },
    stepX: [cos, sin],
    stepY: [-sin, cos],
  }
}

export function scaleAt({ ratio, nearer }: Placing, inverse: number): number {
  return ratio * (1 + nearer * inverse)
}

/** A v |1/s − 1/Z|, half of it (thin lens; Kingslake). */
export function radiusAt({ blur, focus, nearer }: Placing, inverse: number): number {
  return Math.min(WIDEST, blur * Math.abs(focus - inverse / (1 + nearer * inverse)))
}
