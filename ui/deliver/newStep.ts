import { roundLength_mm, type Step, type StepName } from '@/core/finish'
import type { Rectangle } from '@/core/raster'

interface Around {
  /** Size of the picture at that step. */
  width: number
  height: number
  /** Size of a pixel of the render on the subject, where it is known, and px now for one of those. */
  pixel_mm?: number
  scale: number
  /** The part that all frames show, where there are edges that not all do. */
  covered?: Rectangle
}

/** What a step is called before it says what it does. */
export const STEP_NAMES: Record<StepName, string> = {
  light: 'Lighter or darker',
  tones: 'Ladder of tones',
  neutral: 'Grey at a place',
  card: 'Grey from a card',
  colour: 'Colours',
  gradient: 'Along a line',
  depthGradient: 'Along the depth',
  local: 'By hand',
  straighten: 'Turn upright',
  crop: 'Crop',
  size: 'Size',
  sharpen: 'Sharpen',
  scaleBar: 'Scale bar',
  caption: 'Caption',
}

/** Steps that come last, in this order: what is sharpened has its size, and a bar is drawn on the finished picture. */
const LATE: Partial<Record<StepName, number>> = { size: 1, sharpen: 2, scaleBar: 3, caption: 4 }
const lateness = (name: StepName) => LATE[name] ?? 0

/** Where a new step goes: behind all that do not come later by nature. */
export function placeFor(name: StepName, steps: Step[]): number {
  const after = steps.findIndex((step) => lateness(step.do) > lateness(name))
  return after < 0 ? steps.length : after
}

/** Where pixels have no known size, the picture is said to be so wide until somebody says better. */
const SOME_mm = 100

const MAKE: { [K in StepName]: (around: Around) => Extract<Step, { do: K }> } = {
  light: () => ({ do: 'light', stops: 0 }),
  tones: () => ({ do: 'tones', points: [-8, -6, -4, -2, 0].map((stops): [number, number] => [stops, stops]) }),
  neutral: ({ width, height }) => ({
    do: 'neutral',
    at: [Math.round(width / 2), Math.round(height / 2)],
    radius_px: Math.max(2, Math.round(width / 150)),
  }),
  // White of D50: nothing changes until a card is shown.
  card: () => ({ do: 'card', card: [0.9642, 1, 0.8249] }),
  colour: () => ({ do: 'colour', strength: 1 }),
  gradient: ({ width, height }) => ({
    do: 'gradient',
    from: [Math.round(width / 2), Math.round(0.1 * height)],
    to: [Math.round(width / 2), Math.round(0.5 * height)],
    stops: -0.7,
  }),
  depthGradient: () => ({ do: 'depthGradient', from: 1, to: 0.5, stops: -0.5 }),
  local: ({ width, height }) => ({
    do: 'local',
    path: [[Math.round(width / 2), Math.round(height / 2)]],
    radius_px: Math.round(width / 15),
    softness: 0.8,
    stops: 0.5,
  }),
  straighten: () => ({ do: 'straighten', degrees: 0 }),
  crop: ({ width, height, covered }) => {
    if (covered) return { do: 'crop', ...covered }
    const [x, y] = [Math.round(0.05 * width), Math.round(0.05 * height)]
    return { do: 'crop', x, y, width: width - 2 * x, height: height - 2 * y }
  },
  size: ({ width, height }) => ({ do: 'size', long_px: Math.min(2400, Math.max(width, height)) }),
  sharpen: () => ({ do: 'sharpen', radius_px: 0.8, amount: 0.5, threshold: 0.005 }),
  scaleBar: ({ width, scale, pixel_mm = (SOME_mm * scale) / width }) => ({
    do: 'scaleBar',
    pixel_mm,
    length_mm: roundLength_mm((width / scale) * pixel_mm),
  }),
  caption: () => ({ do: 'caption', text: '{title}\n{subject}', tone: 'light' }),
}

/** A step to begin with. */
export const newStep = (name: StepName, around: Around): Step => MAKE[name](around)
