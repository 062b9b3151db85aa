import { blend, clamp, mirror } from './kernels/twin/memory'
import { createPlane, type Plane } from './plane'

/** Binomial smoothing 1 4 6 4 1 in both directions (a Gaussian of σ = 1 px), edges repeated. */
export function smooth(plane: Plane): Plane {
  const { width, height } = plane
  const out = createPlane(width, height)
  const line = new Float32Array(width)
  for (let y = 0; y < height; y++) {
    blendRows(
      plane,
      [-2, -1, 0, 1, 2].map((k) => clamp(y + k, height) * width),
      line,
    )
    const row = y * width
    const at = (x: number) => line[clamp(x, width)]
    const inner = Math.max(2, width - 2)
    for (let x = 0; x < Math.min(2, width); x++) out.data[row + x] = blend(at(x - 2), at(x - 1), at(x), at(x + 1), at(x + 2))
    for (let x = 2; x < inner; x++) out.data[row + x] = blend(line[x - 2], line[x - 1], line[x], line[x + 1], line[x + 2])
    for (let x = inner; x < width; x++) out.data[row + x] = blend(at(x - 2), at(x - 1), at(x), at(x + 1), at(x + 2))
  }
  return out
}

/** Half the size, smoothed with the same kernel (Burt & Adelson, 1983), edges mirrored. Sizes round up. */
export function reduce(plane: Plane): Plane {
  const { width, height } = plane
  const out = createPlane((width + 1) >> 1, (height + 1) >> 1)
  const line = new Float32Array(width)
  for (let y = 0; y < out.height; y++) {
    blendRows(
      plane,
      [-2, -1, 0, 1, 2].map((k) => mirror(2 * y + k, height) * width),
      line,
    )
    for (let x = 0, i = 0, o = y * out.width; x < out.width; x++, i += 2, o++) {
      if (i >= 2 && i < width - 2) out.data[o] = blend(line[i - 2], line[i - 1], line[i], line[i + 1], line[i + 2])
      else {
        const at = (k: number) => line[mirror(i + k, width)]
        out.data[o] = blend(at(-2), at(-1), at(0), at(1), at(2))
      }
    }
  }
  return out
}

/** Five rows of a plane, given by their first places, blended into one line. */
function blendRows({ width, data }: Plane, [a, b, c, d, e]: number[], line: Float32Array): void {
  for (let x = 0; x < width; x++) line[x] = blend(data[a + x], data[b + x], data[c + x], data[d + x], data[e + x])
}
