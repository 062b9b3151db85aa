import { createPlane, type Picture, type Plane, type Rectangle } from './plane'
import { apply, invert, type Similarity } from './similarity'

const PHASES = 1024
const TAPS = cubicTaps(-0.6)

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
  const { width, height, data } = plane
  const out = createPlane(width, height)
  const centreX = (width - 1) / 2
  const centreY = (height - 1) / 2
  const a = motion.scale * Math.cos(motion.rotation_rad)
  const b = motion.scale * Math.sin(motion.rotation_rad)
  for (let y = 0; y < height; y++) {
    let qx = a * -centreX - b * (y - centreY) + motion.dx_px + centreX
    let qy = b * -centreX + a * (y - centreY) + motion.dy_px + centreY
    const row = y * width
    for (let x = 0; x < width; x++, qx += a, qy += b) {
      const ix = Math.floor(qx)
      const iy = Math.floor(qy)
      const tx = (((qx - ix) * PHASES + 0.5) | 0) * 4
      const ty = (((qy - iy) * PHASES + 0.5) | 0) * 4
      const inside = ix >= 1 && iy >= 1 && ix < width - 2 && iy < height - 2
      let sum = 0
      for (let j = 0; j < 4; j++) {
        const sy = inside ? iy + j - 1 : clamp(iy + j - 1, height)
        const o = sy * width
        let line: number
        if (inside) {
          const i = o + ix
          line = TAPS[tx] * data[i - 1] + TAPS[tx + 1] * data[i] + TAPS[tx + 2] * data[i + 1] + TAPS[tx + 3] * data[i + 2]
        } else {
          line = 0
          for (let i = 0; i < 4; i++) line += TAPS[tx + i] * data[o + clamp(ix + i - 1, width)]
        }
        sum += TAPS[ty + j] * line
      }
      out.data[row + x] = sum
    }
  }
  return out
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

function clamp(index: number, size: number): number {
  return index < 0 ? 0 : index >= size ? size - 1 : index
}

/** Keys' cubic convolution weights for PHASES + 1 positions between two samples, four a position. */
function cubicTaps(sharpness: number): Float32Array {
  const kernel = (distance: number) => {
    const t = Math.abs(distance)
    if (t <= 1) return (sharpness + 2) * t ** 3 - (sharpness + 3) * t ** 2 + 1
    return t < 2 ? sharpness * (t ** 3 - 5 * t ** 2 + 8 * t - 4) : 0
  }
  const taps = new Float32Array((PHASES + 1) * 4)
  for (let phase = 0; phase <= PHASES; phase++) for (let k = 0; k < 4; k++) taps[phase * 4 + k] = kernel(phase / PHASES - (k - 1))
  return taps
}
