import { farLimit_mm, focusForFar_mm, focusForNear_mm, nearLimit_mm } from '../optics'
import { refusal, type Refusal } from '../words'

/** More frames than this is a request to think again, not a plan. */
export const MAX_FRAMES = 2000

/** Slack for sums of decimals such as 0.1 + 0.2, as part of the quantity compared. */
const ROUNDING = 1e-9

export interface Slice {
  focus: number
  near: number
  far: number
}

/** Even slices of depth `slice_mm`, laid from `start_mm` until `end_mm` is covered, in mm. */
export function evenSlices(start_mm: number, end_mm: number, slice_mm: number, stride_mm: number): Slice[] {
  const missing = end_mm - start_mm - slice_mm
  const count = missing <= ROUNDING * slice_mm ? 1 : Math.ceil(missing / stride_mm - ROUNDING) + 1
  if (count > MAX_FRAMES) throw tooMany(count)
  return Array.from({ length: count }, (_, k) => {
    const near = start_mm + k * stride_mm
    return { near, far: near + slice_mm, focus: near + slice_mm / 2 }
  })
}

/** The stride the mover can do: rounded down to its resolution, so that the overlap can only grow. */
export function roundStride_mm(stride_mm: number, resolution_mm: number): number {
  const steps = Math.floor(stride_mm / resolution_mm + ROUNDING)
  // Multiplying by the resolution would print 0.6200000000000001; dividing by its inverse does not.
  return steps / (1 / resolution_mm)
}

/**
 * Slices from `near_mm` to `far_mm` (Infinity allowed) for a lens with hyperfocal distance H, each overlapping the
 * next by at least `overlap` of its width in dioptres. The fewest frames are found first; what is left over is then
 * spent evenly on overlap, so that the last slice ends where the subject does.
 */
export function rangeSlices(near_mm: number, far_mm: number, hyperfocal: number, focal_mm: number, overlap: number): Slice[] {
  const first = 1 / focusForNear_mm(near_mm, hyperfocal, focal_mm)
  const last = 1 / focusForFar_mm(far_mm, hyperfocal, focal_mm)
  if (first <= last * (1 + ROUNDING)) return [sliceAt((first + last) / 2, hyperfocal, focal_mm)]
  const expected = chain(first, last, hyperfocal, focal_mm, overlap)
  let low = overlap
  let high = 1 - ROUNDING
  // The same number of frames with as much overlap as reaches the end: bisection on a monotone count.
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2
    if (chain(first, last, hyperfocal, focal_mm, middle, expected.length).at(-1)! <= last) low = middle
    else high = middle
  }
  const vergences = chain(first, last, hyperfocal, focal_mm, low, expected.length)
  return vergences.map((u, k) => sliceAt(k === vergences.length - 1 ? Math.max(u, last) : u, hyperfocal, focal_mm))
}

/** Focus vergences (1/s) from `first` down until `last` is reached, as far apart as the overlap allows. */
function chain(first: number, last: number, hyperfocal: number, focal_mm: number, overlap: number, atMost = MAX_FRAMES): number[] {
  const vergences = [first]
  while (vergences.at(-1)! > last * (1 + ROUNDING) && vergences.length < atMost) {
    vergences.push(vergences.at(-1)! - step(vergences.at(-1)!, hyperfocal, focal_mm, overlap))
  }
  if (vergences.at(-1)! > last * (1 + ROUNDING) && atMost === MAX_FRAMES) throw tooMany(MAX_FRAMES + 1)
  return vergences
}

/**
 * The largest step in vergence from u that leaves the overlap. With a = 1/(H−f) a slice spans
 * [H a u − a, (H−2f) a u + a], 2a(1 − f u) wide; the wider of two neighbours, the farther one, sets the overlap.
 */
function step(u: number, hyperfocal: number, focal_mm: number, overlap: number): number {
  const a = 1 / (hyperfocal - focal_mm)
  const g = (hyperfocal - 2 * focal_mm) * a
  return (2 * a * (1 - focal_mm * u) * (1 - overlap)) / (g + 2 * a * overlap * focal_mm)
}

function sliceAt(vergence: number, hyperfocal: number, focal_mm: number): Slice {
  const focus = vergence > 0 ? 1 / vergence : Infinity
  // 1/(1/H) may fall a rounding short of H and lose infinity; a slice that ends a million times beyond has no end.
  const far = farLimit_mm(focus * (1 + ROUNDING) >= hyperfocal ? hyperfocal : focus, hyperfocal, focal_mm)
  return { focus, near: nearLimit_mm(focus, hyperfocal, focal_mm), far }
}

function tooMany(count: number): Refusal {
  const said = count > MAX_FRAMES + 1 ? `about ${count.toPrecision(2).includes('e') ? count.toExponential(0) : count}` : `more than ${MAX_FRAMES}`
  return refusal('plan.tooMany', { count: said, most: MAX_FRAMES }, 'subject')
}
