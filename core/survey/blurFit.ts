/**
 * How sharpness falls with blur. Seen in two bands, one twice as coarse as the other, energy goes as
 * (1 + (blur / scale)²)^−3, where blur is the diameter of the disc that a point becomes. The form and the scale were fitted
 * to subjects of known depth (fine and coarse reliefs, bristles, edges, a garden): from sharp to 15 px of blur it stays
 * within a tenth, whatever the texture.
 */
const POWER = 3
export const SCALE_px = 8
/** How much coarser each band is. */
const BANDS = [1, 2]

/** Blur that one step of the focus makes, in px of the pictures as surveyed. */
export const BLURS_px = [0.45, 0.6, 0.75, 0.9, 1.1, 1.3, 1.55, 1.85, 2.2, 2.7, 3.3, 4.2, 5.3, 6.7]
/** Peaks are sought this often in a step, and so many steps beyond both ends; farther out nothing can be measured. */
const PER_STEP = 3
const BEYOND_steps = 8
/** A part's own floor (light that spills in from others) explains much, and costs therefore this much of misfit. */
const OWN_FLOOR = { share: 0.9, cost: 0.02 }

/** One part of the picture: its energy in each frame, band by band; NaN where a frame does not show it. */
export type Energies = Float64Array[]

/** Fits a part's energies against where its focus could lie and how much blur a step could make. */
export class BlurFit {
  /** Where the focus could lie, in steps. */
  readonly peaks: Float64Array
  /** Fall of sharpness at each frame, by band, peak and blur a step; −log. */
  private readonly falls: Float64Array[]

  /**
   * `places` are the frames' own, in steps; `blurs_px` how much blur a step could make; `noise` the energy of noise alone,
   * band by band.
   */
  constructor(
    private readonly places: number[],
    readonly blurs_px: number[],
    private readonly noise: number[],
  ) {
    const [first, last] = [places[0] - BEYOND_steps, places.at(-1)! + BEYOND_steps]
    this.peaks = Float64Array.from({ length: Math.round((last - first) * PER_STEP) + 1 }, (_, k) => first + k / PER_STEP)
    this.falls = BANDS.map((coarser) => {
      const falls = new Float64Array(this.peaks.length * blurs_px.length * places.length)
      let at = 0
      for (const peak of this.peaks)
        for (const blur_px of blurs_px)
          for (const place of places) falls[at++] = -POWER * Math.log1p((((place - peak) * blur_px) / (SCALE_px * coarser)) ** 2)
      return falls
    })
  }

  /** Sum of squared misfit, of logarithms, for each peak and each blur a step, in that order. */
  misfit(energies: Energies): Float64Array {
    const total = new Float64Array(this.peaks.length * this.blurs_px.length)
    const best = new Float64Array(total.length)
    energies.forEach((energy, band) => {
      best.fill(Infinity)
      const least = energy.reduce((low, value) => (value < low ? value : low), Infinity)
      const noise = Math.min(this.noise[band], OWN_FLOOR.share * least)
      for (const [floor, cost] of [
        [0, 0],
        [noise, 0],
        [OWN_FLOOR.share * least, OWN_FLOOR.cost],
      ] as const) {
        this.lowerTo(best, energy, this.falls[band], floor, cost)
      }
      best.forEach((value, k) => (total[k] += value))
    })
    return total
  }

  /** Takes the misfit over a floor where it is lower; what lies near the floor counts little. */
  private lowerTo(best: Float64Array, energy: Float64Array, falls: Float64Array, floor: number, cost: number): void {
    const count = this.places.length
    const weights = new Float64Array(count)
    const logs = new Float64Array(count)
    let [sumW, sumWZ, sumWZZ] = [0, 0, 0]
    for (let k = 0; k < count; k++) {
      if (Number.isNaN(energy[k])) continue
      const above = Math.max(1e-12, energy[k] - floor)
      logs[k] = Math.log(above)
      weights[k] = (above / Math.max(1e-12, energy[k])) ** 2
      sumW += weights[k]
      sumWZ += weights[k] * logs[k]
      sumWZZ += weights[k] * logs[k] ** 2
    }
    for (let i = 0, at = 0; i < best.length; i++) {
      let [zF, wF, wFF] = [0, 0, 0]
      for (let k = 0; k < count; k++, at++) {
        const weighted = weights[k] * falls[at]
        zF += weighted * logs[k]
        wF += weighted
        wFF += weighted * falls[at]
      }
      // How sharp the part would be in focus is free, and chosen best: the mean of what the fall leaves.
      const misfit = cost + sumWZZ - 2 * zF + wFF - (sumWZ - wF) ** 2 / sumW
      if (misfit < best[i]) best[i] = misfit
    }
  }
}
