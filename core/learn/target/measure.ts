import type { Plane } from '../../raster'
import { deviation, mean } from '../../statistics'
import { Refusal } from '../../words'
import { dotsIn } from './dots'
import { fitFocus, type FocusFit, type Line } from './fit'
import type { Homography } from './homography'
import { sheetIn } from './ladders'
import { behind, poseOf, type Pose } from './pose'
import { curvatureOf, type Curvature } from './curvature'
import { STRETCHES, WAVES, wavesOf, type LineWaves, type Stretch } from './profile'
import { EDGE_s } from './sheet'
import { say } from './words'

/** What is known of the sheet and of the camera that photographed it. Only the first is needed; without the others less is told. */
export interface TargetFacts {
  /** Distance of the dots, as printed. */
  pitch_mm: number
  sensorWidth_mm?: number
  /** By file; what it says of each frame counts before the one for all. */
  apertures?: Record<string, number>
  fNumber?: number
  /** Exit over entrance pupil; 1 where absent. */
  pupilRatio?: number
  /** Blur that counts as sharp, in px of the frames. */
  allowedBlur_px?: number
}

/** What a frame of the sheet tells. Absent where it cannot be told. */
export interface MeasuredFrame {
  file: string
  /** Plane of focus along the axis, away from the camera, from the middle of the sheet. */
  focus_mm: number | null
  /** Within this depth blur stays below what is allowed. */
  depthOfField_mm: number | null
}

export interface MeasuredTarget {
  frames: MeasuredFrame[]
  /** Angle between the sheet and the plane of the sensor. */
  tilt_deg: number
  /** Mean way of the focus from frame to frame, in their order; less than 0 towards the camera. */
  stride_mm: number | null
  strideSpread_mm: number | null
  /** Size in the picture where it is in focus, where the sensor's width is known. */
  magnification: number | null
  /** Depth of field as found by that as reckoned from the aperture and the size in the picture. */
  depthOfFieldRatio: number | null
  /** By which part the sheet's middle is pictured larger in the frame focused nearest than in the one focused farthest. */
  breathing: number | null
  /** How the focus lies at the left and right edges of the picture. */
  fieldCurvature: Curvature | null
  /** The aperture at which the plane of focus is sharpest, where there are several. */
  sharpest: number | null
}

/** The least that a frame's bars have to tell: what its fit leaves, 0 … 1. */
const MOST_LEFT = 0.35
/** Lines across the sheet lie so far apart, in pitches. */
const LINE_STEP = 0.12
/** A line takes part in the phase of the waves where it has this part of the strongest line's energy. */
const STRONG = 0.5
const USUAL_allowed_px = 2

interface Seen {
  file: string
  width_px: number
  homography: Homography
  pose: Pose
  /** Along the slant, at u = 0; whole, and their parts at the sides and in the middle. */
  lines: Record<Stretch, SeenLine[]>
}

interface SeenLine {
  s: number
  waves: LineWaves
}

/** Measures focus from frames of the printed sheet: handed over one after another, none is kept. */
export class TargetMeasure {
  private readonly seen: (Seen | { file: string })[] = []

  /** A frame's brightness in linear light. */
  add(file: string, light: Plane): void {
    const homography = sheetIn(dotsIn(light))
    const pose = homography && poseOf(homography, light.width, light.height)
    this.seen.push(pose ? { file, width_px: light.width, homography, pose, lines: linesIn(light, homography, pose) } : { file })
  }

  /** @throws Refusal where the sheet is seen in fewer than two frames. */
  finish(facts: TargetFacts): MeasuredTarget {
    const seen = this.seen.filter((each): each is Seen => 'pose' in each)
    if (seen.length < 2) throw new Refusal(say('target.notSeen', { seen: seen.length, frames: this.seen.length }))
    const pose = sharedPose(seen)
    const fits = new Map(seen.map((each) => [each.file, focusOf(each, pose)]))
    const frames = this.seen.map((each): MeasuredFrame => {
      const fit = fits.get(each.file)
      if (!fit || !('pose' in each)) return { file: each.file, focus_mm: null, depthOfField_mm: null }
      return { file: each.file, focus_mm: fit.focus * facts.pitch_mm, depthOfField_mm: depthOfField(each, fit, pose, facts) * facts.pitch_mm }
    })
    const places = frames.flatMap(({ focus_mm }, k) => (focus_mm === null ? [] : [[k, focus_mm] as const]))
    const told = seen.flatMap((each) => (fits.get(each.file) ? [{ each, fit: fits.get(each.file)! }] : []))
    const sizes = told.flatMap(({ each, fit }) => magnificationAt(each, fit, pose, facts) ?? [])
    const ratios = told.flatMap(({ each, fit }) => ratioOf(each, fit, pose, facts) ?? [])
    return {
      frames,
      tilt_deg: (pose.tilt_rad * 180) / Math.PI,
      ...strideOf(places),
      magnification: sizes.length > 0 ? mean(sizes) : null,
      depthOfFieldRatio: ratios.length > 0 ? mean(ratios) : null,
      breathing: breathingOf(told),
      fieldCurvature: curvatureOf(
        told.flatMap(({ each, fit }) => bentOf(each, fit, pose) ?? []),
        facts.pitch_mm,
      ),
      sharpest: sharpestOf(told, facts),
    }
  }
}

/**
 * The stride is the slope of the line through all places of the focus; single strides differ from one another by their spread.
 */
function strideOf(places: (readonly [frame: number, focus_mm: number])[]): Pick<MeasuredTarget, 'stride_mm' | 'strideSpread_mm'> {
  if (places.length < 2) return { stride_mm: null, strideSpread_mm: null }
  const [middle, centre] = [mean(places.map(([frame]) => frame)), mean(places.map(([, focus]) => focus))]
  const square = places.reduce((sum, [frame]) => sum + (frame - middle) ** 2, 0)
  const stride_mm = places.reduce((sum, [frame, focus]) => sum + (frame - middle) * (focus - centre), 0) / square
  const apart = places.slice(1).flatMap(([frame, focus], k) => (frame === places[k][0] + 1 ? [focus - places[k][1]] : []))
  return { stride_mm, strideSpread_mm: apart.length > 1 ? deviation(apart) : null }
}

/** How the sheet lies in all frames alike. */
type Shared = Pick<Pose, 'tilt_rad' | 'away'>

/** All lines across the bars that a frame shows whole, each as deep as it is long. */
function linesIn(light: Plane, homography: Homography, { away }: Pose): Seen['lines'] {
  const lean = -away[0] / away[1]
  const linesOf = (stretch: Stretch) => {
    const lines: SeenLine[] = []
    for (let s = -EDGE_s + 1; s <= EDGE_s - 1; s += LINE_STEP) {
      const waves = wavesOf(light, homography, s, lean, stretch)
      if (waves) lines.push({ s, waves })
    }
    return lines
  }
  const names = Object.keys(STRETCHES) as Stretch[]
  return Object.fromEntries(names.map((stretch) => [stretch, linesOf(stretch)])) as Seen['lines']
}

/** The sheet lies the same in all frames: its tilt is the middle one of what each tells. */
function sharedPose(seen: Seen[]): Shared {
  const middleOf = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]
  const angle = middleOf(seen.map(({ pose }) => Math.atan2(pose.away[1], pose.away[0])))
  return { tilt_rad: middleOf(seen.map(({ pose }) => pose.tilt_rad)), away: [Math.cos(angle), Math.sin(angle)] }
}

/** The plane of focus; undefined where it lies beyond what is seen of the sheet, or the bars tell none. */
function focusOf({ lines: all }: Seen, pose: Shared, stretch: Stretch = 'all'): FocusFit | undefined {
  const lines = all[stretch]
  const energies = lines.map(({ waves: { real, imaginary } }) => real.reduce((sum, re, w) => sum + re * re + imaginary[w] ** 2, 0))
  const strong = STRONG * Math.max(...energies)
  // All lines show the same waves: the strong ones tell their phase, and what is not in phase is noise.
  const phase = WAVES.map((_, w) => {
    let [re, im] = [0, 0]
    lines.forEach(({ waves }, k) => {
      if (energies[k] < strong) return
      re += waves.real[w]
      im += waves.imaginary[w]
    })
    const size = Math.hypot(re, im) || 1
    return [re / size, im / size]
  })
  const ordered = lines.map(({ s, waves: { real, imaginary } }): Line => ({
    depth: behind(pose, [0, s]),
    strengths: Float64Array.from(WAVES, (_, w) => real[w] * phase[w][0] + imaginary[w] * phase[w][1]),
  }))
  const fit = fitFocus(ordered, WAVES)
  if (!fit || fit.left > MOST_LEFT) return undefined
  const depths = ordered.map(({ depth }) => depth)
  const inside = fit.focus > Math.min(...depths) && fit.focus < Math.max(...depths)
  return inside ? fit : undefined
}

/** Px of the picture for a pitch in the plane of focus: things are pictured smaller as they lie farther away. */
function pitchAt_px({ homography, pose }: Seen, depth: number, shared: Shared): number {
  const [, , , , , , g, h] = homography
  const weight = (u: number, s: number) => g * u + h * s + 1
  // The place on the sheet's middle line that lies so deep.
  const s = depth / (Math.sin(shared.tilt_rad) * shared.away[1])
  return (pose.pitch_px * weight(...pose.middle)) / weight(0, s)
}

function depthOfField(seen: Seen, fit: FocusFit, pose: Shared, { allowedBlur_px = USUAL_allowed_px }: TargetFacts): number {
  return (2 * allowedBlur_px) / pitchAt_px(seen, fit.focus, pose) / fit.widening
}

function magnificationAt(seen: Seen, fit: FocusFit, pose: Shared, { sensorWidth_mm, pitch_mm }: TargetFacts): number | undefined {
  return sensorWidth_mm && (pitchAt_px(seen, fit.focus, pose) * sensorWidth_mm) / seen.width_px / pitch_mm
}

/** As found by as reckoned: blur widens by the aperture's diameter over its distance, m / N_w (Ray). */
function ratioOf(seen: Seen, fit: FocusFit, pose: Shared, facts: TargetFacts): number | undefined {
  const magnification = magnificationAt(seen, fit, pose, facts)
  const fNumber = facts.apertures?.[seen.file] ?? facts.fNumber
  if (!magnification || !fNumber) return undefined
  return magnification / (fNumber * (1 + magnification / (facts.pupilRatio ?? 1))) / fit.widening
}

/** How far the focus at both sides lies from that in the middle, in pitches, and how far the picture's edge is; undefined where a part tells none. */
function bentOf(each: Seen, fit: FocusFit, pose: Shared): { sides: number; edge: number } | undefined {
  const [left, middle, right] = (['left', 'middle', 'right'] as const).map((stretch) => focusOf(each, pose, stretch)?.focus)
  if (left === undefined || middle === undefined || right === undefined) return undefined
  // A lens or sheet that leans sideways is nearer at one side and farther at the other.
  return { sides: (left + right) / 2 - middle, edge: each.width_px / 2 / pitchAt_px(each, fit.focus, pose) }
}

function breathingOf(told: { each: Seen; fit: FocusFit }[]): number | null {
  if (told.length < 2) return null
  const ordered = [...told].sort((a, b) => a.fit.focus - b.fit.focus)
  const [nearest, farthest] = [ordered[0], ordered.at(-1)!]
  const size = ({ each: { homography, pose } }: (typeof told)[number]) =>
    pose.pitch_px * (homography[6] * pose.middle[0] + homography[7] * pose.middle[1] + 1)
  return size(nearest) / size(farthest) - 1
}

/** How well the finer half of the waves shows in focus, against the coarsest: the print is the same at every aperture. */
function sharpestOf(told: { each: Seen; fit: FocusFit }[], { apertures }: TargetFacts): number | null {
  if (!apertures) return null
  const by = new Map<number, number[]>()
  for (const { each, fit } of told) {
    const fNumber = apertures[each.file]
    if (fNumber === undefined) continue
    const coarse = fit.sharpest.subarray(0, 4).reduce((sum, value) => sum + value, 0)
    const fine = fit.sharpest.subarray(WAVES.length >> 1).reduce((sum, value) => sum + value, 0)
    by.set(fNumber, [...(by.get(fNumber) ?? []), fine / coarse])
  }
  if (by.size < 2) return null
  return [...by].map(([fNumber, values]) => ({ fNumber, sharp: mean(values) })).reduce((best, next) => (next.sharp > best.sharp ? next : best))
    .fNumber
}
