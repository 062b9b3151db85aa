import type { Plane, Rectangle } from '../raster'
import type { Workspace } from '../raster/kernels'

/** A map as whole numbers, for a grey picture. */
export interface GreyMap {
  width: number
  height: number
  data: Uint8Array | Uint16Array
}

/** What 0 and the most of 8 or 16 bits stand for. */
export type Range = [least: number, most: number]

/**
 * A part of the picture of a map of half its size, each of its places twice along both sides: where it lies in the range,
 * rounded and held to what 8 or 16 bits can tell. In `room`, where there is one, else on the heap.
 */
export function fullSize(half: Plane, { x, y, width, height }: Rectangle, bits: 8 | 16, [least, most]: Range, room?: Workspace): GreyMap {
  const count = width * height
  const Samples = bits === 16 ? Uint16Array : Uint8Array
  const data = room ? new Samples(room.kernels.buffer(), room.bytes((count * bits) / 8), count) : new Samples(count)
  const white = 2 ** bits - 1
  const scale = white / (most - least)
  for (let row = 0; row < height; row++) {
    const to = row * width
    if (row > 0 && (y + row) % 2 === 1) {
      data.copyWithin(to, to - width, to)
      continue
    }
    const from = ((y + row) >> 1) * half.width
    for (let column = 0, place = x >> 1; column < width; place++) {
      const sample = Math.min(white, Math.max(0, Math.round((half.data[from + place] - least) * scale)))
      for (const end = Math.min(width, 2 * place + 2 - x); column < end; column++) data[to + column] = sample
    }
  }
  return { width, height, data }
}
