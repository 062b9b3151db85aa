/** Four values a place (red, green, blue, alpha), row by row. */
export interface Tile {
  width: number
  height: number
  data: Float32Array
}

/** Part of a tile that holds anything, ends included. */
export interface Extent {
  left: number
  right: number
  top: number
  bottom: number
}

/**
 * Adds `source`, blurred by an even disc of `radius` px, to `target`. The source reaches `halo` px beyond the target on
 * every side. Rows are summed once, so a row of the disc costs two looks whatever its length; its ends count in part.
 */
export function addDiscBlurred(source: Tile, filled: Extent, target: Tile, halo: number, radius: number): void {
  const sums = runningSums(source, filled)
  const reach = Math.min(halo - 1, Math.ceil(radius))
  const halfWidths: number[] = []
  let area = 0
  for (let dy = -reach; dy <= reach; dy++) {
    // The row counts as far as the disc covers it, from half a pixel above to half below.
    const half = meanHalfWidth(dy, radius)
    halfWidths.push(half)
    area += 2 * half
  }
  const weight = 1 / area
  const stride = (source.width + 1) * 4
  const first = Math.max(0, filled.left - halo - reach - 1) * 4
  const end = Math.min(target.width, filled.right - halo + reach + 2) * 4
  for (let y = Math.max(0, filled.top - halo - reach); y < Math.min(target.height, filled.bottom - halo + reach + 1); y++) {
    const out = y * target.width * 4
    for (let k = 0; k < halfWidths.length; k++) {
      const half = Math.min(halfWidths[k], halo - 0.6)
      const sourceRow = y + halo + k - reach
      if (half <= 0 || sourceRow < filled.top || sourceRow > filled.bottom) continue
      const row = sourceRow * stride
      const right = half + 0.5
      const wholeRight = Math.floor(right)
      const partRight = right - wholeRight
      const r0 = row + (halo + wholeRight) * 4
      const l0 = row + (halo + 1 - wholeRight) * 4
      for (let i = first; i < end; i++) {
        const upper = sums[r0 + i] + partRight * (sums[r0 + i + 4] - sums[r0 + i])
        const lower = sums[l0 + i] - partRight * (sums[l0 + i] - sums[l0 + i - 4])
        target.data[out + i] += weight * (upper - lower)
      }
    }
  }
}

/** Mean half width of the disc over one pixel row. */
function meanHalfWidth(dy: number, radius: number): number {
  let sum = 0
  for (let k = 0; k < 4; k++) sum += Math.sqrt(Math.max(0, radius ** 2 - (dy + (k + 0.5) / 4 - 0.5) ** 2))
  return sum / 4
}

function runningSums({ width, height, data }: Tile, filled: Extent): Float32Array {
  const sums = new Float32Array((width + 1) * height * 4)
  for (let y = filled.top; y <= filled.bottom; y++) {
    let from = y * width * 4
    let to = (y * (width + 1) + 1) * 4
    for (let x = 0; x < width * 4; x++, from++, to++) sums[to] = sums[to - 4] + data[from]
  }
  return sums
}
