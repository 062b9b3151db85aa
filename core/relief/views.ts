/** A picture with its depth, to be seen from another side. */
export interface View {
  width: number
  height: number
  /** Interleaved RGB. */
  samples: Uint8Array
  /** 0 the nearest … 65535 the farthest. */
  depth: Uint16Array
}

/** A piece of surface that is stretched more than this is a step: what it uncovers belongs to what lies behind. */
const STEP_times = 3

/**
 * The picture as an eye aside of the camera sees it: near parts move by half of `shift_px` to the left, far ones as much to the right, and what
 * is near covers what is far. What comes to light behind a step continues what lies behind it; edges that nothing moves to
 * repeat the last place. Source: depth-image based rendering (Fehn, 2004), row by row.
 */
export function seenFromAside({ width, height, samples, depth }: View, shift_px: number): Uint8Array {
  const out = new Uint8Array(width * height * 3)
  const at = new Float32Array(width)
  const nearest = new Float32Array(width)
  for (let y = 0; y < height; y++) {
    const row = y * width
    nearest.fill(Infinity)
    for (let x = 0; x < width; x++) at[x] = x + shift_px * (depth[row + x] / 65535 - 0.5)
    const paint = (x: number, z: number, from: number, to: number, part: number) => {
      if (x < 0 || x >= width || z >= nearest[x]) return
      nearest[x] = z
      for (let c = 0; c < 3; c++) {
        const value = samples[3 * (row + from) + c]
        out[3 * (row + x) + c] = value + part * (samples[3 * (row + to) + c] - value) + 0.5
      }
    }
    for (let x = 0; x + 1 < width; x++) {
      const [a, b] = [at[x], at[x + 1]]
      const [za, zb] = [depth[row + x], depth[row + x + 1]]
      // A surface that is turned away is seen from behind, and so not at all.
      if (b < a) continue
      const step = b - a > STEP_times
      const behind = za > zb ? x : x + 1
      for (let to = Math.ceil(a); to <= b; to++) {
        const part = b > a ? (to - a) / (b - a) : 0
        if (step) paint(to, Math.max(za, zb) + 1, behind, behind, 0)
        else paint(to, za + part * (zb - za), x, x + 1, part)
      }
    }
    for (let x = 0; x <= at[0]; x++) paint(x, depth[row], 0, 0, 0)
    for (let x = width - 1; x >= at[width - 1]; x--) paint(x, depth[row + width - 1], width - 1, width - 1, 0)
    fillRow(out, row, width, nearest)
  }
  return out
}

/** Places of a row that nothing came to take what is behind: the farther one of their neighbours. */
function fillRow(out: Uint8Array, row: number, width: number, nearest: Float32Array): void {
  for (let x = 0; x < width; x++) {
    if (nearest[x] < Infinity) continue
    let end = x
    while (end < width && nearest[end] === Infinity) end++
    const left = x > 0 ? nearest[x - 1] : -1
    const right = end < width ? nearest[end] : -1
    const source = left >= right ? x - 1 : end
    if (source >= 0 && source < width) for (let k = x; k < end; k++) out.copyWithin(3 * (row + k), 3 * (row + source), 3 * (row + source) + 3)
    x = end - 1
  }
}

/** Where the eye is in each picture of a gentle rocking, -1 … 1, once to and fro. */
export function rockingPlaces(count: number): number[] {
  return Array.from({ length: count }, (_, k) => Math.sin((2 * Math.PI * k) / count))
}
