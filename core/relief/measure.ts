import { pixelAt } from './perspective'
import type { Surface } from './surface'

/** A place of the picture, px. */
type Place = [x: number, y: number]

/** A place with its depth, and by how much that may be off; in the surface's unit, away from the camera. */
export interface MeasuredPlace {
  depth: number
  uncertain: number
  /** How sure the depth is, 0 … 1. */
  confidence: number
}

/** From one place to another. Lengths in mm where pixel and depth are known in mm; absent where they are not. */
export interface Measured {
  from: MeasuredPlace
  to: MeasuredPlace
  /** Across the picture. */
  across_px: number
  across_mm?: Length
  /** How much nearer to the camera the second place is; in the surface's unit. */
  height: Length
  /** Through space. */
  straight_mm?: Length
}

interface Length {
  value: number
  /** Plus or minus. */
  uncertain: number
}

export interface ProfilePoint {
  /** From the first place; mm where a pixel is known in mm, else px. */
  along: number
  /** Towards the camera, above the farthest plane of focus; in the surface's unit. */
  height: number
  low: number
  high: number
}

/** A place counts by the middle one of so many around it, each way, so that a single speck decides nothing. */
const AROUND_px = 2
/** The depth of a sure place lies within half a slice; of a doubtful one within as many times more as its confidence is lower, to so much. */
const MOST_slices = 3
/** Each end of a line can be pointed at to so many px of the picture. */
const POINTED_px = 0.5
/** A magnification is known to such a part. */
const SCALE_part = 0.005

/**
 * Distance and height between two places of a picture. Across, each piece of the way counts by the size that a pixel has at its depth; the
 * uncertainty is that of pointing, of the magnification, and of what a pixel shows at the depths that the ends may have. A height is
 * uncertain by the slices of both ends: half a slice where the depth is sure.
 */
export function measured(surface: Surface, from: Place, to: Place): Measured {
  const [a, b] = [placeAt(surface, from), placeAt(surface, to)]
  const across_px = Math.hypot(to[0] - from[0], to[1] - from[1])
  const { pixelSize, unit } = surface
  const known = unit === 'mm' && pixelSize !== undefined
  const size = known ? (pixelAt(pixelSize, a.depth) + pixelAt(pixelSize, b.depth)) / 2 : 0
  const height = { value: a.depth - b.depth, uncertain: Math.hypot(a.uncertain, b.uncertain) }
  if (!known) return { from: a, to: b, across_px, height }
  const [shift_x, shift_y] = asideOf(surface, from, to, a.depth, b.depth)
  const value = Math.hypot(shift_x, shift_y)
  const deep = [from, to].map((place, k) =>
    shiftByDepth_mm(surface, place, [a, b][k].uncertain, value > 0 ? [shift_x / value, shift_y / value] : [0, 0]),
  )
  const across_mm = { value, uncertain: Math.hypot(POINTED_px * Math.SQRT2 * size, SCALE_part * value, ...deep) }
  const straight = Math.hypot(value, height.value)
  const uncertain = straight > 0 ? Math.hypot(value * across_mm.uncertain, height.value * height.uncertain) / straight : height.uncertain
  return { from: a, to: b, across_px, across_mm, height, straight_mm: { value: straight, uncertain } }
}

/** Heights along a straight line, a place for each pixel of the map, 512 at the most. */
export function measuredAlong(surface: Surface, from: Place, to: Place): ProfilePoint[] {
  const long_px = Math.hypot(to[0] - from[0], to[1] - from[1])
  const count = Math.min(512, Math.max(2, Math.ceil(long_px / surface.times) + 1))
  const farthest = Math.max(surface.at0, surface.at65535)
  const { pixelSize } = surface
  let along = 0
  let before: MeasuredPlace | undefined
  return Array.from({ length: count }, (_, k) => {
    const t = k / (count - 1)
    const here = placeAt(surface, [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])], 1)
    const step_px = long_px / (count - 1)
    if (before) along += step_px * (pixelSize && surface.unit === 'mm' ? (pixelAt(pixelSize, before.depth) + pixelAt(pixelSize, here.depth)) / 2 : 1)
    before = here
    const height = farthest - here.depth
    return { along, height, low: height - here.uncertain, high: height + here.uncertain }
  })
}

const middleOfPicture = ({ width, height, times }: Surface): Place => [(width * times - 1) / 2, (height * times - 1) / 2]

/** How far a place moves along a direction where its depth is off by so much: nothing on the axis, most at the border. */
function shiftByDepth_mm(surface: Surface, place: Place, uncertain: number, along: Place): number {
  const pixel = surface.pixelSize!
  const [x, y] = middleOfPicture(surface)
  return ((place[0] - x) * along[0] + (place[1] - y) * along[1]) * (pixelAt(pixel, uncertain) - pixelAt(pixel, 0))
}

/** How far aside the second place is from the first, in mm: each as far from the axis as its own depth has it. */
function asideOf(surface: Surface, from: Place, to: Place, fromDepth: number, toDepth: number): Place {
  const middle = middleOfPicture(surface)
  const [a, b] = [pixelAt(surface.pixelSize!, fromDepth), pixelAt(surface.pixelSize!, toDepth)]
  return [0, 1].map((axis) => (to[axis] - middle[axis]) * b - (from[axis] - middle[axis]) * a) as Place
}

/** The middle depth and confidence around a place of the picture, and how uncertain that depth is. */
function placeAt(surface: Surface, [px, py]: Place, around = AROUND_px): MeasuredPlace {
  const { width, height, times, depth, confidence } = surface
  const column = clamp(Math.round((px + 0.5) / times - 0.5), width - 1)
  const row = clamp(Math.round((py + 0.5) / times - 0.5), height - 1)
  const depths: number[] = []
  const sure: number[] = []
  for (let y = Math.max(0, row - around); y <= Math.min(height - 1, row + around); y++)
    for (let x = Math.max(0, column - around); x <= Math.min(width - 1, column + around); x++) {
      depths.push(depth[y * width + x])
      sure.push(confidence[y * width + x])
    }
  const here = middleOf(depths)
  const certain = middleOf(sure)
  const slices = Math.min(MOST_slices, 0.5 / Math.max(certain, 1e-3))
  return { depth: here, confidence: certain, uncertain: slices * sliceAt(surface, here) }
}

/** Distance between the two frames that a depth lies between. */
function sliceAt({ slices }: Surface, depth: number): number {
  if (slices.length < 2) return 0
  const rises = slices[1] > slices[0]
  const after = slices.findIndex((at, k) => k > 0 && (rises ? at >= depth : at <= depth))
  const k = after < 0 ? slices.length - 1 : after
  return Math.abs(slices[k] - slices[k - 1])
}

const clamp = (at: number, most: number) => Math.min(most, Math.max(0, at))
const middleOf = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]
