import { MM_PER_INCH, significant, type UnitSystem } from '@/core/units'

/** A place along the optical axis on the ribbon's length. */
export interface AxisScale {
  /** Position in the drawing, 0 = left end, for a depth in mm. */
  x(depth_mm: number): number
  ticks: { at: number; label: string }[]
  unit: string
}

/** An even scale from `from_mm` to `to_mm` over `width` px, its ticks round in mm or in inches. */
export function evenScale(from_mm: number, to_mm: number, width: number, system: UnitSystem = 'metric'): AxisScale {
  const x = (mm: number) => ((mm - from_mm) / (to_mm - from_mm)) * width
  const unit_mm = system === 'inches' ? MM_PER_INCH : 1
  const step = niceStep((to_mm - from_mm) / unit_mm / Math.max(3, width / 90))
  const ticks = []
  for (let k = Math.ceil(from_mm / unit_mm / step); k * step * unit_mm <= to_mm; k++) {
    ticks.push({ at: x(k * step * unit_mm), label: String(Number((k * step).toPrecision(12))) })
  }
  return { x, ticks, unit: system === 'inches' ? 'inches' : 'mm' }
}

const DISTANCES = [0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7, 0.85, 1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 7, 10, 15, 20, 30, 50, 100, 300]
const LABELS_APART = 34

/**
 * A scale even in dioptres from `near_mm` to `far_mm`, which may be infinite; labelled in metres or feet. `ofLabel` turns a labelled
 * distance into one of the scale, where the two are measured from different places.
 */
export function dioptreScale(
  near_mm: number,
  far_mm: number,
  width: number,
  system: UnitSystem = 'metric',
  ofLabel: (mm: number) => number = (mm) => mm,
): AxisScale {
  const near = 1 / near_mm
  const far = 1 / far_mm
  const x = (mm: number) => ((near - 1 / mm) / (near - far)) * width
  const unit_mm = system === 'inches' ? 12 * MM_PER_INCH : 1000
  const ticks: AxisScale['ticks'] = []
  for (const distance of [...DISTANCES, Infinity]) {
    const at = x(ofLabel(distance * unit_mm))
    if (!(at >= -0.5) || at > width + 0.5) continue
    while (ticks.length > 0 && at - ticks.at(-1)!.at < LABELS_APART && distance === Infinity) ticks.pop()
    if (ticks.length === 0 || at - ticks.at(-1)!.at >= LABELS_APART) ticks.push({ at, label: distance === Infinity ? '∞' : significant(distance, 3) })
  }
  return { x, ticks, unit: system === 'inches' ? 'feet' : 'metres' }
}

/** 1, 2 or 5 times a power of ten, not below `least`. */
function niceStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((factor) => factor * power).find((step) => step >= least)!
}
