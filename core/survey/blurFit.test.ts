import fc from 'fast-check'
import { BlurFit, BLURS_px, SCALE_px } from './blurFit'

const places = Array.from({ length: 12 }, (_, k) => k)
const noise = [1e-7, 1e-7]

/** Energy of a part by the law itself: `peak` is where it is sharp, `floor` what noise adds. */
const energies = (peak: number, blur_px: number, floor = 0, sharp = 1e-3) =>
  [1, 2].map((coarser) => Float64Array.from(places, (place) => sharp * (1 + (((place - peak) * blur_px) / (SCALE_px * coarser)) ** 2) ** -3 + floor))

function bestOf(fit: BlurFit, of: Float64Array[]): { peak: number; blur_px: number } {
  const misfit = fit.misfit(of)
  const best = misfit.reduce((least, value, i) => (value < misfit[least] ? i : least), 0)
  return { peak: fit.peaks[Math.floor(best / fit.blurs_px.length)], blur_px: fit.blurs_px[best % fit.blurs_px.length] }
}

describe('where a part is sharp', () => {
  const fit = new BlurFit(places, BLURS_px, noise)

  test('is found wherever the peak lies, within the series and beyond, however sharp the part itself is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -9, max: 42 }),
        fc.integer({ min: 2, max: 9 }),
        fc.double({ min: -14, max: -4, noNaN: true }),
        (third, blur, sharp) => {
          const [peak, blur_px] = [third / 3, BLURS_px[blur]]
          const found = bestOf(fit, energies(peak, blur_px, 0, Math.exp(sharp)))
          expect(Math.abs(found.peak - peak)).toBeLessThan(0.35)
          expect(found.blur_px).toBe(blur_px)
        },
      ),
      { numRuns: 60, seed: 5 },
    )
  })

  test('noise does not move it', () => {
    expect(Math.abs(bestOf(fit, energies(14, 1.3, 1e-7)).peak - 14)).toBeLessThan(1)
    expect(Math.abs(bestOf(fit, energies(5, 1.3, 1e-7)).peak - 5)).toBeLessThan(0.35)
  })

  test('frames that do not show the part are left out', () => {
    const cut = energies(5, 1.3).map((energy) => energy.map((value, k) => (k > 8 ? NaN : value)))
    expect(Math.abs(bestOf(fit, cut).peak - 5)).toBeLessThan(0.35)
  })
})
