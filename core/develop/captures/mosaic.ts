import { createPlane, encoded, type Interleaved, type Plane } from '../../raster'

/** Which colour each pixel of two by two sees: 0 red, 1 green, 2 blue. */
export type Filters = readonly [number, number, number, number]

/** Of the three channels. */
export const GREEN = 1

/** So much of a phase has to show one colour alone. */
const ALONE = 0.98

/**
 * The filters of a mosaic that was spread over three channels, 0 where a pixel does not see the colour. Undefined where they do not repeat
 * after two by two with green twice.
 */
export function filtersOf({ samples, width, height }: Interleaved): Filters | undefined {
  const filters = [0, 1, 2, 3].map((phase) => {
    const seen = [0, 0, 0]
    for (let y = phase >> 1; y < height; y += 2)
      for (let x = phase & 1; x < width; x += 2) for (let c = 0; c < 3; c++) if (samples[3 * (y * width + x) + c] > 0) seen[c]++
    const most = seen.indexOf(Math.max(...seen))
    return seen[most] >= ALONE * (seen[0] + seen[1] + seen[2]) ? most : -1
  })
  const [a, b, c, d] = filters
  return filters.toSorted().join('') === '0112' ? [a, b, c, d] : undefined
}

/** The light of each two by two pixels, as encoded values: what captures are laid on one another by. Half as wide and high as the mosaic. */
export function lightOfMosaic({ samples, width, height }: Interleaved): Plane {
  const plane = createPlane(width >> 1, height >> 1)
  for (let y = 0, i = 0; y < plane.height; y++)
    for (let x = 0; x < plane.width; x++, i++) {
      let sum = 0
      for (const at of [2 * y * width + 2 * x, (2 * y + 1) * width + 2 * x]) for (let c = 0; c < 6; c++) sum += samples[3 * at + c]
      plane.data[i] = encoded(sum / (4 * 65_535))
    }
  return plane
}
