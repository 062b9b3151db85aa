/** Energy that counts as noise at the least, on 0 … 1 samples, squared: what rounding to 8 bits and little light leave. */
const LEAST_NOISE = 2e-5
/** The quietest places tell the noise; energy this many times theirs begins to count. */
const TIMES = 6
const QUIET_SHARE = 0.05
const TILE = 8

/** Energy of noise in a plane of energies (rows `stride` apart), from its quietest tiles: there noise is all there is. */
export function noiseOf(energies: Float32Array, stride: number, height: number, width = stride): number {
  const tiles: number[] = []
  for (let y = 0; y + TILE <= height; y += TILE) {
    for (let x = 0; x + TILE <= width; x += TILE) {
      let sum = 0
      for (let dy = 0; dy < TILE; dy++) for (let dx = 0; dx < TILE; dx++) sum += energies[(y + dy) * stride + x + dx]
      tiles.push(sum / TILE ** 2)
    }
  }
  tiles.sort((a, b) => a - b)
  return Math.max(LEAST_NOISE, TIMES * (tiles[Math.floor(tiles.length * QUIET_SHARE)] ?? 0))
}
