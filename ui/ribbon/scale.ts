/** A place along the optical axis on the ribbon's length. */
export interface AxisScale {
  /** Position in the drawing, 0 = left end, for a depth in mm. */
  x(depth_mm: number): number
  ticks: { at: number; label: string }[]
  unit: string
}

/** An even scale in mm from `from_mm` to `to_mm` over `width` px. */
export function evenScale(from_mm: number, to_mm: number, width: number): AxisScale {
  const x = (mm: number) => ((mm - from_mm) / (to_mm - from_mm)) * width
  const step = niceStep((to_mm - from_mm) / Math.max(3, width / 90))
  const ticks = []
  for (let k = Math.ceil(from_mm / step); k * step <= to_mm; k++) ticks.push({ at: x(k * step), label: String(Number((k * step).toPrecision(6))) })
  return { x, ticks, unit: 'mm' }
}

const DISTANCES_m = [0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7, 0.85, 1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 7, 10, 15, 20, 30, 50, 100]

/** A scale even in dioptres from `near_mm` to `far_mm`, which may be infinite; labelled in metres. */
export function dioptreScale(near_mm: number, far_mm: number, width: number): AxisScale {
  const near = 1 / near_mm
  const far = 1 / far_mm
  const x = (mm: number) => ((near - 1 / mm) / (near - far)) * width
  const ticks: AxisScale['ticks'] = []
  for (const metres of [...DISTANCES_m, Infinity]) {
    const at = x(metres * 1000)
    if (at < -0.5 || at > width + 0.5) continue
    while (ticks.length > 0 && at - ticks.at(-1)!.at < 34 && metres === Infinity) ticks.pop()
    if (ticks.length === 0 || at - ticks.at(-1)!.at >= 34) ticks.push({ at, label: metres === Infinity ? '∞' : String(metres) })
  }
  return { x, ticks, unit: 'm' }
}

/** 1, 2 or 5 times a power of ten, not below `least`. */
function niceStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least))
  return [1, 2, 5, 10].map((factor) => factor * power).find((step) => step >= least)!
}
