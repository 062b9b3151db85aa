import type { FoundDust } from '@/core/dust'
import { clustersOf, stripsOutside, told, trailOf, type Inspector, type Place } from '@/core/inspect'
import { apply, invert, type Plane, type Rectangle, type Similarity } from '@/core/raster'
import type { SurveyReport } from '@/core/survey'

/** An end that less of the picture lies beyond is as one wants it. */
const MUCH_percent = 8

/** So much of the picture between two slices is seen. */
const SEEN_percent = 3

interface Whole {
  crop: Rectangle
  size: { width: number; height: number }
  motions: Similarity[]
}

/** Where the series has no slice: between two frames, or beyond its ends. */
export function missingSlices(
  { coverage }: SurveyReport,
  inspector: Inspector,
  files: string[],
  inFull: (cells: Rectangle) => Rectangle,
  whole: Whole,
): Place[] {
  // Where hardly anything lies between two slices, the step is not seen.
  const gapSeverity = (coverage.unsharp?.between_percent ?? 0) >= SEEN_percent ? 0.8 : 0.45
  const gaps = coverage.gaps.flatMap(({ after, before }) => {
    const frames = [files.indexOf(after), files.indexOf(before)].sort((a, b) => a - b)
    const { marked, grid } = inspector.sharpestWithin(frames)
    const largest = largestOf(clustersOf(marked, grid, Infinity))
    return largest ? [told({ kind: 'neverSharp', severity: gapSeverity, frames, suggestion: null }, inFull(largest), files)] : []
  })
  const { unsharp } = coverage
  if (!unsharp) return gaps
  const ends = (['near', 'far'] as const).flatMap((end) => {
    const percent = unsharp[`${end}_percent`]
    const letter = end === 'near' ? 'n' : 'f'
    const [across, down] = [unsharp.map[0].length, unsharp.map.length]
    const marked = Uint8Array.from(unsharp.map.join(''), (each) => Number(each === letter))
    const largest = largestOf(clustersOf(marked, { across, down }, Infinity))
    if (!largest || percent < 1) return []
    const severity = percent < MUCH_percent ? 0.3 : Math.min(0.9, 0.5 + percent / 100)
    const place = seenFrom(files.indexOf(unsharp.file), largest, { across, down }, whole)
    return place ? [told({ kind: 'neverSharp', severity, frames: [end === 'near' ? 0 : files.length - 1], suggestion: null }, place, files)] : []
  })
  return [...gaps, ...ends]
}

/** A rectangle of parts of a frame's view, in px of the picture. */
function seenFrom(frame: number, parts: Rectangle, { across, down }: { across: number; down: number }, { crop, size, motions }: Whole) {
  const back = invert(motions[Math.max(0, frame)])
  const at = (px: number, py: number) => {
    const [x, y] = apply(back, (px / across - 0.5) * size.width, (py / down - 0.5) * size.height)
    return [x + size.width / 2 - crop.x, y + size.height / 2 - crop.y]
  }
  const [left, top] = at(parts.x, parts.y).map((value) => Math.max(0, Math.round(value)))
  const [right, bottom] = at(parts.x + parts.width, parts.y + parts.height)
  const width = Math.min(crop.width, Math.round(right)) - left
  const height = Math.min(crop.height, Math.round(bottom)) - top
  return width > 0 && height > 0 ? { x: left, y: top, width, height } : undefined
}

const largestOf = (clusters: Rectangle[]): Rectangle | undefined =>
  clusters.reduce<Rectangle | undefined>((best, each) => (best && best.width * best.height >= each.width * each.height ? best : each), undefined)

interface Looked {
  fused: Plane
  step: number
  crop: Rectangle
}

/** Trails that specks on the sensor left in the picture. */
export function trails({ width, height, specks }: FoundDust, motions: Similarity[], size: Whole['size'], { fused, step, crop }: Looked): Place[] {
  const small = width / size.width
  const inSmall = motions.map((motion) => ({ ...motion, dx_px: motion.dx_px * small, dy_px: motion.dy_px * small }))
  // From the frames that were searched to the small picture.
  const scale = 1 / small / step
  const shift: [number, number] = [crop.x / step, crop.y / step]
  return specks.flatMap((speck) => {
    const trail = trailOf(speck, inSmall, { width, height }, fused, shift, scale)
    const place = trail && inside(trail.rectangle, step, crop)
    if (!place) return []
    return [
      told({ kind: 'dust', severity: Math.min(1, 0.4 + 2 * trail.darkness), frames: [], suggestion: trail.even ? { heal: true } : null }, place, []),
    ]
  })
}

function inside({ x, y, width, height }: Rectangle, step: number, crop: Rectangle): Rectangle | undefined {
  const [left, top] = [Math.max(0, Math.floor(x * step)), Math.max(0, Math.floor(y * step))]
  const right = Math.min(crop.width, Math.ceil((x + width) * step))
  const bottom = Math.min(crop.height, Math.ceil((y + height) * step))
  return right > left && bottom > top ? { x: left, y: top, width: right - left, height: bottom - top } : undefined
}

/** Strips along the border that some frames do not cover. */
export function borders(common: Rectangle, crop: Rectangle): Place[] {
  const [wide, high] = [0.005 * crop.width, 0.005 * crop.height]
  return stripsOutside(common, crop)
    .filter(({ width, height }) => width > wide && height > high)
    .map(({ x, y, width, height }) =>
      told({ kind: 'edge', severity: 0.3, frames: [], suggestion: null }, { x: x - crop.x, y: y - crop.y, width, height }, []),
    )
}
