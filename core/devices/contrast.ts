import type { Plane } from '../raster'

/** A part of a picture, in parts of its width and height. */
export interface Part {
  x: number
  y: number
  width: number
  height: number
}

/**
 * Fine contrast in a part of a picture: the mean square of the Laplacian less what noise alone would give, over the mean
 * brightness; 0 … about 100. (Sum-modified Laplacian: Nayar & Nakagawa, 1994.)
 */
export function fineContrast({ width, height, data }: Plane, part: Part): number {
  const left = Math.max(1, Math.round(part.x * width))
  const top = Math.max(1, Math.round(part.y * height))
  const right = Math.min(width - 1, Math.round((part.x + part.width) * width))
  const bottom = Math.min(height - 1, Math.round((part.y + part.height) * height))
  let [energy, light, count] = [0, 0, 0]
  for (let y = top; y < bottom; y++) {
    for (let x = left; x < right; x++) {
      const i = y * width + x
      const across = Math.abs(2 * data[i] - data[i - 1] - data[i + 1])
      const down = Math.abs(2 * data[i] - data[i - width] - data[i + width])
      energy += (across + down) ** 2
      light += data[i]
      count++
    }
  }
  return count === 0 || light === 0 ? 0 : (100 * Math.sqrt(energy / count)) / (light / count)
}
