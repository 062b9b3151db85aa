/** Differences are gathered over so many px on all sides: single pixels of noise decide nothing. */
const REACH_px = 2

/**
 * Which of several pictures, laid on one another, a fused one shows at each place: the one that differs least from it around there. One is
 * looked at at a time, so that memory does not grow with their number.
 */
export class Chosen {
  private readonly least: Float32Array
  private readonly index: Uint16Array
  private count = 0

  /** `fused` is interleaved RGB of 16 bits. */
  constructor(
    private readonly fused: Uint16Array,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.least = new Float32Array(width * height).fill(Infinity)
    this.index = new Uint16Array(width * height)
  }

  /** The next picture, as large. */
  add(samples: Uint16Array): void {
    const { fused, width, height, least, index } = this
    const away = new Float32Array(width * height)
    for (let i = 0, s = 0; i < away.length; i++, s += 3)
      away[i] = Math.abs(samples[s] - fused[s]) + Math.abs(samples[s + 1] - fused[s + 1]) + Math.abs(samples[s + 2] - fused[s + 2])
    const across = boxed(away, width, height, 1, width)
    const around = boxed(across, height, width, width, 1)
    for (let i = 0; i < around.length; i++)
      if (around[i] < least[i]) {
        least[i] = around[i]
        index[i] = this.count
      }
    this.count++
  }

  /** Number of the picture that is shown at each place, in the order in which they came. */
  map(): Uint16Array {
    return this.index
  }
}

/** Running sums along lines of `length` places, `step` apart; lines begin `apart` from each other. Beyond an end nothing is added. */
function boxed(from: Float32Array, length: number, lines: number, step: number, apart: number): Float32Array {
  const out = new Float32Array(from.length)
  for (let line = 0; line < lines; line++) {
    let sum = 0
    for (let n = 0; n < Math.min(REACH_px, length); n++) sum += from[line * apart + n * step]
    for (let n = 0; n < length; n++) {
      if (n + REACH_px < length) sum += from[line * apart + (n + REACH_px) * step]
      if (n > REACH_px) sum -= from[line * apart + (n - REACH_px - 1) * step]
      out[line * apart + n * step] = sum
    }
  }
  return out
}
