import { createPlane, runningMean, type Plane } from '../raster'
import { componentsOf } from './components'

/** How surely a part has to have moved, and how far that reaches from there, in px of displacement. */
export interface Certainty {
  /** So far something lies elsewhere that surely moved. */
  sure_px: number
  /** What hangs together with it and lies elsewhere by this belongs to it. */
  likely_px: number
  /** So much of the picture has to be sure, */
  leastShare: number
  /** and so much of the part: what sways slightly all over is followed by bending. */
  leastOfPart: number
}

/** Gaps up to twice this, px of the map, are bridged. */
const BRIDGED_px = 2
/** A part is taken with so much around it, px of the map: there frames agree. */
const AROUND_px = 1
/** Gaps inside a part below this share of the picture belong to it. */
const LEAST_GAP = 0.0012

/** The parts of a picture that moved, as marks, from by how much each place lies elsewhere between two frames at the most. */
export function outlineOf(displaced: Plane, { sure_px, likely_px, leastShare, leastOfPart }: Certainty): Uint8Array {
  const { width, height, data } = displaced
  const likely = createPlane(width, height)
  for (let i = 0; i < data.length; i++) likely.data[i] = Number(data[i] > likely_px)
  const bridged = shrunk(grown(likely, BRIDGED_px), BRIDGED_px)
  const { group, count } = componentsOf(
    bridged.data.map((is) => is - 1),
    width,
    height,
    true,
  )
  const [sure, sizes] = [new Uint32Array(count), new Uint32Array(count)]
  group.forEach((part, i) => {
    if (part < 0) return
    sizes[part]++
    if (data[i] > sure_px) sure[part]++
  })
  const moved = (part: number) => sure[part] >= leastShare * data.length && sure[part] >= leastOfPart * sizes[part]
  const kept = createPlane(width, height)
  group.forEach((part, i) => (kept.data[i] = Number(part >= 0 && moved(part))))
  const marks = Uint8Array.from(grown(kept, AROUND_px).data)
  fillGaps(marks, width, height)
  return marks
}

function fillGaps(marks: Uint8Array, width: number, height: number): void {
  const { group, count } = componentsOf(
    Int8Array.from(marks, (is) => -is),
    width,
    height,
    false,
  )
  const sizes = new Uint32Array(count)
  for (const gap of group) if (gap >= 0) sizes[gap]++
  group.forEach((gap, i) => {
    if (gap >= 0 && sizes[gap] < LEAST_GAP * marks.length) marks[i] = 1
  })
}

/** Marks that are 1 grow to all sides, or shrink, by so many px. */
function grown(marks: Plane, by_px: number): Plane {
  const mean = runningMean(marks, by_px)
  const least = 0.5 / (2 * by_px + 1) ** 2
  for (let i = 0; i < mean.data.length; i++) mean.data[i] = Number(mean.data[i] > least)
  return mean
}

function shrunk(marks: Plane, by_px: number): Plane {
  const mean = runningMean(marks, by_px)
  const most = 1 - 0.5 / (2 * by_px + 1) ** 2
  for (let i = 0; i < mean.data.length; i++) mean.data[i] = Number(mean.data[i] > most)
  return mean
}
