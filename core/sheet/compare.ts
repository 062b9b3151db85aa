import { durationText, lengthText, significant, storageText, type UnitSystem } from '../units'
import type { SheetPlan } from './sheetPlan'

export interface Difference {
  what: string
  before: string
  after: string
  /** What the change means, in a few words; empty where nothing changes to speak of. */
  said: string
  /** `after` over `before`. */
  factor: number
}

/** A change smaller than this part decides nothing. */
const WORTH_SAYING = 0.02

interface Measure {
  what: string
  value: (planned: SheetPlan) => number
  text: (value: number, system?: UnitSystem) => string
  /** How more and less of it read: `6 frames more`. */
  more: string
  less: string
}

const MEASURES: Measure[] = [
  { what: 'Frames', value: ({ plan }) => plan.frameCount, text: String, more: 'more frames', less: 'fewer frames' },
  { what: 'Stride', value: ({ plan }) => plan.stride_mm, text: lengthText, more: 'longer steps', less: 'shorter steps' },
  { what: 'Overlap', value: ({ plan }) => plan.overlap * 100, text: (v) => `${significant(v, 3)} %`, more: 'safer', less: 'riskier' },
  {
    what: 'Blur where slices meet',
    value: ({ plan }) => plan.coc_mm,
    text: lengthText,
    more: 'softer between slices',
    less: 'sharper between slices',
  },
  { what: 'Blur of diffraction', value: ({ plan }) => plan.diffraction_mm, text: lengthText, more: 'softer everywhere', less: 'sharper everywhere' },
  {
    what: 'Magnification',
    value: ({ plan }) => plan.magnification,
    text: (v) => `${significant(v, 3)} : 1`,
    more: 'larger in the picture',
    less: 'smaller in the picture',
  },
  {
    what: 'Near edge from the lens',
    value: ({ plan }) => plan.workingDistance_mm,
    text: lengthText,
    more: 'more room for light',
    less: 'less room for light',
  },
  {
    what: 'Cropped at the edges',
    value: ({ plan }) => plan.edgeLoss_percent,
    text: (v) => `${significant(v, 2)} %`,
    more: 'frame looser',
    less: 'frame tighter',
  },
  { what: 'Time', value: ({ plan }) => plan.duration_s, text: durationText, more: 'longer to stay still', less: 'sooner done' },
  { what: 'Storage', value: ({ plan }) => plan.storage_MB, text: storageText, more: 'more to keep and to fuse', less: 'less to keep and to fuse' },
]

/** Two plans side by side, every figure with what the change from `before` to `after` means. */
export function comparePlans(before: SheetPlan, after: SheetPlan, system?: UnitSystem): Difference[] {
  return MEASURES.map(({ what, value, text, more, less }) => {
    const [a, b] = [value(before), value(after)]
    const factor = b / a
    const same = text(a, system) === text(b, system) || Math.abs(factor - 1) < WORTH_SAYING
    return { what, before: text(a, system), after: text(b, system), factor, said: same ? '' : b > a ? more : less }
  })
}
