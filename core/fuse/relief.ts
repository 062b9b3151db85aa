import { bilinear, createPlane, reduce, type Plane } from '../raster'
import type { Workspace } from '../raster/kernels'

/** Places around that are heard, how far away they count less, and up to which difference in frames they count. */
const REACH = 3
const NEARBY = 2
const ALIKE = 1.75
/** A doubtful place counts by so little at the least. */
const LEAST_CONFIDENCE = 1e-3

export interface EvenedDepth {
  depth: Plane
  /** What part of the sure places around lies at nearly the same depth, 0 … 1: beside a step, half. */
  agreement: Plane
}

/**
 * Depth evened out over what lies at nearly the same depth around (a bilateral filter; Tomasi & Manduchi, 1998), sure places
 * counting more: noise goes, steps stay. Computed in `space`, where the answers lie as well.
 */
export function evenedDepth(depth: Plane, confidence: Plane, space: Workspace): EvenedDepth {
  const { width, height } = depth
  const slabs = [0, 1, 2, 3].map(() => space.plane(width + 2 * REACH, height + 2 * REACH))
  const [{ stride }] = slabs
  const inner = REACH * stride + REACH
  const [depths, trusts] = slabs.slice(0, 2).map((slab) => space.view(slab).fill(0))
  for (let y = 0; y < height; y++) {
    const [from, at] = [y * width, y * stride + inner]
    depths.set(depth.data.subarray(from, from + width), at)
    for (let x = 0; x < width; x++) trusts[at + x] = confidence.data[from + x] + LEAST_CONFIDENCE
  }
  const taps = tapsAround()
  const tapsAt = space.bytes(taps.byteLength)
  new Float32Array(space.kernels.buffer(), tapsAt, taps.length).set(taps)
  const [plane, trust, target, agreement] = slabs.map(({ at }) => at + 4 * inner)
  space.kernels.run('even', [plane, trust, stride, width, REACH, ALIKE, tapsAt, target, agreement], height)
  const [evened, agreed] = slabs.slice(2).map((slab) => {
    const out = space.loose(width, height)
    const answer = space.view(slab)
    for (let y = 0; y < height; y++) out.data.set(answer.subarray(y * stride + inner, y * stride + inner + width), y * width)
    return out
  })
  return { depth: evened, agreement: agreed }
}

function tapsAround(): Float32Array {
  const side = 2 * REACH + 1
  return Float32Array.from({ length: side * side }, (_, k) => {
    const [dx, dy] = [(k % side) - REACH, Math.floor(k / side) - REACH]
    return Math.exp(-(dx ** 2 + dy ** 2) / (2 * NEARBY ** 2))
  })
}

/** Confidence below which a place takes its depth from around it rather than from itself. */
const SURE = 0.5
const COARSEST = 4

/**
 * Depth with its doubtful places filled from the sure ones around them: means weighted by confidence from ever wider
 * neighbourhoods, as far out as needed (push and pull; Gortler et al., 1996). Sure places keep what they have. `create` makes the planes.
 */
export function filledDepth(
  { width, height, ...depth }: Plane,
  confidence: Plane,
  create: (width: number, height: number) => Plane = createPlane,
): Plane {
  const [weights, weighted] = [create(width, height), create(width, height)]
  for (let i = 0; i < depth.data.length; i++) {
    const part = confidence.data[i] / SURE
    weights.data[i] = part >= 1 ? 1 : Math.max(1e-6, part * part * part * part * 0.01)
    weighted.data[i] = depth.data[i] * weights.data[i]
  }
  return pull(weighted, weights, weighted)
}

/** Into `out`, which may be what is weighted: that is not needed any more then. */
function pull(weighted: Plane, weights: Plane, out: Plane): Plane {
  const ends = Math.min(out.width, out.height) <= COARSEST
  const halved = ends ? undefined : reduce(weighted)
  const coarse = halved && pull(halved, reduce(weights), halved)
  for (let y = 0, i = 0; y < out.height; y++) {
    for (let x = 0; x < out.width; x++, i++) {
      const own = Math.min(1, weights.data[i])
      const here = weighted.data[i] / weights.data[i]
      // Most places are sure of themselves, and ask nobody.
      out.data[i] = own === 1 || !coarse ? here : own * here + (1 - own) * bilinear(coarse, x / 2, y / 2)
    }
  }
  return out
}

/** Places in focus order, between frames too, as the distances that `positions_mm` gives the frames. */
export function inMillimetres(depth: Plane, positions_mm: number[]): Plane {
  const last = positions_mm.length - 1
  return {
    ...depth,
    data: depth.data.map((place) => {
      const k = Math.min(last - 1, Math.max(0, Math.floor(place)))
      return positions_mm[k] + (place - k) * (positions_mm[k + 1] - positions_mm[k])
    }),
  }
}
