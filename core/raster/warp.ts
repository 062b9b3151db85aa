import { clamp } from './kernels/twin/memory'
import { cubicWeights, PHASES, readingOf, WHOLE, type Reading } from './kernels/twin/samples'
import { createPlane, type Picture, type Plane, type Rectangle } from './plane'
import { apply, invert, type Similarity } from './similarity'

/** Keeps the contrast of fine detail better than the usual −0.5. */
export const SHARPNESS = -0.6

/**
 * A frame brought into the reference frame: out(p) = frame(motion(p)), with one cubic interpolation (Keys, 1981;
 * a = −0.6 keeps the contrast of fine detail). Beyond the frame its edge is repeated.
 */
export function warpPicture(picture: Picture, motion: Similarity): Picture {
  const [red, green, blue] = picture.planes.map((plane) => warpPlane(plane, motion))
  return { ...picture, planes: [red, green, blue] }
}

/** {@link warpPicture} for a single plane. */
export function warpPlane(plane: Plane, motion: Similarity): Plane {
  const { width, height } = plane
  const out = createPlane(width, height)
  const [centreX, centreY] = [(width - 1) / 2, (height - 1) / 2]
  const a = motion.scale * Math.cos(motion.rotation_rad)
  const b = motion.scale * Math.sin(motion.rotation_rad)
  const startX = -a * centreX + b * centreY + motion.dx_px + centreX
  const startY = -b * centreX - a * centreY + motion.dy_px + centreY
  warp(plane.data, out.data, width, height, a, b, startX, startY, TAPS, 0, height)
  return out
}

/** Cubic interpolation of a plane at A p + start, p from the picture's first pixel, A a turn and scale (a, b). */
function warp(
  source: Float32Array,
  target: Float32Array,
  width: number,
  height: number,
  a: number,
  b: number,
  startX: number,
  startY: number,
  taps: Float32Array,
  from: number,
  to: number,
): void {
  for (let y = from; y < to; y++) {
    let qx = startX - b * y
    let qy = startY + a * y
    for (let x = 0, out = y * width; x < width; x++, out++, qx += a, qy += b) {
      const ix = Math.floor(qx)
      const iy = Math.floor(qy)
      const tx = (((qx - ix) * PHASES + 0.5) | 0) * 4
      const ty = (((qy - iy) * PHASES + 0.5) | 0) * 4
      const inside = ix >= 1 && iy >= 1 && ix < width - 2 && iy < height - 2
      const x0 = inside ? ix - 1 : clamp(ix - 1, width)
      const x1 = inside ? ix : clamp(ix, width)
      const x2 = inside ? ix + 1 : clamp(ix + 1, width)
      const x3 = inside ? ix + 2 : clamp(ix + 2, width)
      let sum = 0
      for (let j = 0; j < 4; j++) {
        const row = (inside ? iy + j - 1 : clamp(iy + j - 1, height)) * width
        sum +=
          taps[ty + j] *
          (taps[tx] * source[row + x0] + taps[tx + 1] * source[row + x1] + taps[tx + 2] * source[row + x2] + taps[tx + 3] * source[row + x3])
      }
      target[out] = sum
    }
  }
}

/** Where the kernels read a frame of this size for the pixels of the reference frame. */
export function readingFor({ scale, rotation_rad, dx_px, dy_px }: Similarity, width: number, height: number): Reading {
  const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
  const [centreX, centreY] = [(width - 1) / 2, (height - 1) / 2]
  return readingOf(a, b, -a * centreX + b * centreY + dx_px + centreX, -b * centreX - a * centreY + dy_px + centreY)
}

/**
 * The same motion seen within a part of the reference frame: the part of the frame to read, of the same size, and the motion
 * that remains between the two, each about its own middle. `width` × `height` is the whole frame; the part read lies a multiple
 * of `grid_px` beside the part asked for.
 */
export function motionWithin(
  motion: Similarity,
  part: Rectangle,
  width: number,
  height: number,
  grid_px = 1,
): { area: Rectangle; motion: Similarity } {
  // From the whole picture's middle to the part's.
  const [vx, vy] = [part.x + (part.width - 1) / 2 - (width - 1) / 2, part.y + (part.height - 1) / 2 - (height - 1) / 2]
  const [x, y] = apply(motion, vx, vy)
  const [dx_px, dy_px] = [x - vx, y - vy]
  const [wholeX, wholeY] = [dx_px, dy_px].map((shift) => grid_px * Math.round(shift / grid_px))
  return {
    area: { ...part, x: part.x + wholeX, y: part.y + wholeY },
    motion: { ...motion, dx_px: dx_px - wholeX, dy_px: dy_px - wholeY },
  }
}

/** The largest upright rectangle (conservatively) that every one of the moved frames covers, in reference pixels. */
export function commonRectangle(motions: Similarity[], width: number, height: number): Rectangle {
  const halfWidth = (width - 1) / 2
  const halfHeight = (height - 1) / 2
  let [left, top, right, bottom] = [-halfWidth, -halfHeight, halfWidth, halfHeight]
  for (const motion of motions) {
    const back = invert(motion)
    const corner = (sx: number, sy: number) => apply(back, sx * halfWidth, sy * halfHeight)
    left = Math.max(left, corner(-1, -1)[0], corner(-1, 1)[0])
    right = Math.min(right, corner(1, -1)[0], corner(1, 1)[0])
    top = Math.max(top, corner(-1, -1)[1], corner(1, -1)[1])
    bottom = Math.min(bottom, corner(-1, 1)[1], corner(1, 1)[1])
  }
  const x = Math.max(0, Math.ceil(left + halfWidth - 1e-6))
  const y = Math.max(0, Math.ceil(top + halfHeight - 1e-6))
  return { x, y, width: Math.floor(right + halfWidth + 1e-6) - x + 1, height: Math.floor(bottom + halfHeight + 1e-6) - y + 1 }
}

/** The weights as the kernels take them: whole numbers that add up to WHOLE_WEIGHT exactly. */
export function wholeTaps(): Int16Array {
  return (wholes ??= roundedTaps())
}

let wholes: Int16Array | undefined

function roundedTaps(): Int16Array {
  const whole = new Int16Array(TAPS.length)
  for (let phase = 0; phase <= PHASES; phase++) {
    const four = [...TAPS.subarray(phase * 4, phase * 4 + 4)].map((weight) => Math.round(weight * WHOLE))
    // What rounding leaves goes to the largest: nothing becomes lighter or darker.
    four[four[1] >= four[2] ? 1 : 2] += WHOLE - four.reduce((sum, weight) => sum + weight, 0)
    whole.set(four, phase * 4)
  }
  return whole
}

/** Cubic weights for PHASES + 1 positions between two samples, four a position. */
export const TAPS = Float32Array.from({ length: (PHASES + 1) * 4 }, (_, i) => cubicWeights((i >> 2) / PHASES, SHARPNESS)[i & 3])
