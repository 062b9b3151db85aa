import type { Measured, ProfilePoint } from '@/core/relief'
import { significant, type UnitSystem } from '@/core/units'

/** Less than this, and the depth of a place is a guess from around it. */
const DOUBTFUL = 0.3

const MM_PER_INCH = 25.4

/** A value and what it may be off by, with no more digits than that allows: `13.98 ± 0.07 mm`. */
export function about({ value, uncertain }: { value: number; uncertain: number }, system: UnitSystem): string {
  const [unit, per] = system === 'inches' ? (['in', MM_PER_INCH] as const) : Math.abs(value) >= 1000 ? (['m', 1000] as const) : (['mm', 1] as const)
  const off = uncertain / per
  const digits = off > 0 ? Math.min(6, Math.max(0, -Math.floor(Math.log10(off)))) : 2
  return `${(Math.abs(value) / per).toFixed(digits)} ± ${off.toFixed(digits)} ${unit}`
}

/** What was measured, as sentences. */
export function measuredText({ across_px, across_mm, height, straight_mm, from, to }: Measured, system: UnitSystem): string[] {
  const nearer = height.value >= 0 ? 'B' : 'A'
  const doubtful = [from, to].flatMap(({ confidence }, k) => (confidence < DOUBTFUL ? ['AB'[k]] : []))
  const doubt = doubtful.length > 0 ? [`There is little detail at ${doubtful.join(' and ')}: the depth there is taken from around it.`] : []
  if (!across_mm || !straight_mm)
    return [
      `A to B: ${Math.round(across_px)} px across.`,
      `${nearer} is nearer by ${significant(Math.abs(height.value), 2)} ± ${significant(height.uncertain, 1)} slices.`,
      'Sizes in mm need a plan with a magnification, and positions of the frames.',
      ...doubt,
    ]
  return [
    `A to B: ${about(across_mm, system)} across.`,
    Math.abs(height.value) < height.uncertain
      ? `Equally near, as far as can be told: ${about(height, system)} apart.`
      : `${nearer} is nearer to the camera by ${about(height, system)}.`,
    `Straight through space: ${about(straight_mm, system)}.`,
    ...doubt,
  ]
}

/** The profile as a table for other programs. */
export function csvOf(points: ProfilePoint[], along: string, height: string): string {
  const rows = points.map((point) => [point.along, point.height, point.low, point.high].map((value) => Number(value.toPrecision(6))).join(','))
  return [`along_${along},height_${height},low_${height},high_${height}`, ...rows, ''].join('\n')
}
