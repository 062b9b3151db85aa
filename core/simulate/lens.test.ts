import { IDENTITY } from '../raster'
import { viewAt, type CameraSetup, type View } from './camera'
import { exposeLens } from './exposeLens'
import { sampleScene } from './sampled'
import type { Layer } from './scene'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 480, height_px: 60, focalLength_mm: 60, fNumber: 2.8, magnification: 1, mover: 'ring' }
const WAVE_mm = 2.4
const tone = (x: number) => 0.5 + 0.4 * Math.sin((2 * Math.PI * x) / WAVE_mm)

/** A striped surface that leans away from the camera to the right. */
function leaning(slant: number): Layer {
  const depthAt = (x: number) => slant * x
  return {
    backdrop: true,
    bounds: { left: -40, right: 40, top: -40, bottom: 40, near: -40 * Math.abs(slant), far: 40 * Math.abs(slant) + 1e-6 },
    depthAt,
    see(x, _y, _texel, sight) {
      const value = tone(x)
      Object.assign(sight, { z: depthAt(x), red: value, green: value, blue: value, alpha: 1 })
      return true
    },
  }
}

/** What arrives at a pixel of the middle row: rays through every part of the lens, to the plane of focus and on to the surface. */
function traced({ pupilZ, focusZ, image_mm, aperture_mm, pitch_mm, aside_mm: [aside] }: View, px: number, slant: number): number {
  const focused = aside + (((px - (camera.width_px - 1) / 2) * pitch_mm) / image_mm) * (focusZ - pupilZ)
  let [sum, count] = [0, 0]
  for (let a = -0.5; a <= 0.5; a += 0.02) {
    for (let b = -0.5; b <= 0.5; b += 0.02) {
      if (Math.hypot(a, b) > 0.5) continue
      const start = aside + a * aperture_mm
      const slope = (focused - start) / (focusZ - pupilZ)
      // x = start + slope · (z − pupilZ) meets z = slant · x; up and down, the stripes are all the same.
      const x = (start - slope * pupilZ) / (1 - slope * slant)
      sum += tone(x)
      count++
    }
  }
  return sum / count
}

/** Place of the stripes among a wave's length, from −π to π, and how strong they are, about pixel `middle`. */
function stripes(values: (px: number) => number, view: View, middle: number) {
  const wave_px = (WAVE_mm * view.image_mm) / (view.focusZ - view.pupilZ) / view.pitch_mm
  let [re, im] = [0, 0]
  const half = Math.round(wave_px)
  for (let px = middle - half; px < middle + half; px++) {
    const window = 0.5 + 0.5 * Math.cos((Math.PI * (px - middle)) / half)
    re += window * (values(px) - 0.5) * Math.cos((2 * Math.PI * px) / wave_px)
    im += window * (values(px) - 0.5) * Math.sin((2 * Math.PI * px) / wave_px)
  }
  return { phase: Math.atan2(im, re), strength: Math.hypot(re, im) / half, wave_px }
}

test.each([
  [0, 0],
  [0.3, 0],
  [0.6, 0],
  [-0.6, 0],
  [0, 1.7],
  [0.6, 1.7],
  [-0.3, -2.4],
])(
  'a surface that leans by %d, seen from %d mm aside, looks as rays through the whole lens would draw it, on both sides of the focus',
  (slant, aside_mm) => {
    const view = viewAt(camera, 0, 0, IDENTITY, [aside_mm, 0])
    const sampled = sampleScene({ depth_mm: 80, layers: [leaning(slant)] }, camera, viewAt(camera, 0, 0, IDENTITY))
    const [light] = exposeLens(sampled, camera, view).planes
    const drawn = (px: number) => light.data[30 * camera.width_px + px]
    for (const middle of [60, 100, 160, 180, 300, 320, 380, 420]) {
      const [a, b] = [stripes(drawn, view, middle), stripes((px) => traced(view, px, slant), view, middle)]
      const apart_px = ((((a.phase - b.phase + 3 * Math.PI) % (2 * Math.PI)) - Math.PI) / (2 * Math.PI)) * a.wave_px
      // Blur of less than 3 px is drawn at the picture's own size, wider blur at half of it.
      expect(Math.abs(apart_px)).toBeLessThan(Math.abs(middle - 240) < 85 ? 0.02 : 0.07)
      expect(Math.abs(a.strength - b.strength)).toBeLessThan(0.005)
    }
  },
)
