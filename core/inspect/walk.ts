import type { Rectangle } from '../raster'

/** Depth of a picture, small; the larger the farther. */
export interface SmallDepth {
  width: number
  height: number
  data: ArrayLike<number>
}

/**
 * A walk from front to back: views of a picture that together show all of it, the one with the nearest middle depth first.
 * `scale` is how many px of the picture one of the map stands for; views are in px of the picture, of the size asked for or less.
 */
export function walkByDepth({ width, height, data }: SmallDepth, scale: number, view: { width: number; height: number }): Rectangle[] {
  const [wide, high] = [Math.round(width * scale), Math.round(height * scale)]
  const [columns, rows] = [Math.ceil(wide / view.width), Math.ceil(high / view.height)]
  const views = Array.from({ length: columns * rows }, (_, k) => {
    const [left, right] = span(k % columns, columns, wide)
    const [top, bottom] = span(Math.floor(k / columns), rows, high)
    const depths: number[] = []
    for (let y = Math.floor(top / scale); y < Math.min(height, Math.ceil(bottom / scale)); y++)
      for (let x = Math.floor(left / scale); x < Math.min(width, Math.ceil(right / scale)); x++) depths.push(data[y * width + x])
    depths.sort((a, b) => a - b)
    return { depth: depths[depths.length >> 1] ?? 0, rectangle: { x: left, y: top, width: right - left, height: bottom - top } }
  })
  return views.sort((a, b) => a.depth - b.depth).map(({ rectangle }) => rectangle)
}

/** One of some even parts of a length. */
const span = (part: number, parts: number, length: number): [number, number] => [
  Math.round((part * length) / parts),
  Math.round(((part + 1) * length) / parts),
]
