/** Energy that counts as noise at the least, on 0 … 1 samples, squared: what rounding to 8 bits and little light leave. */
const LEAST_NOISE = 2e-5
/** The quietest places tell the noise; energy this many times theirs begins to count. */
export const TIMES = 6
const QUIET_SHARE = 0.05
const TILE = 8
/** So many tiles tell it well enough. */
const ENOUGH = 5000

/** Energy of noise in a plane of energies (rows `stride` apart), from its quietest tiles: there noise is all there is. */
export function noiseOf(energies: Float32Array, stride: number, height: number, width = stride): number {
  const tiles: number[] = []
  const step = TILE * Math.max(1, Math.floor(Math.sqrt((width * height) / TILE ** 2 / ENOUGH)))
  for (let y = 0; y + TILE <= height; y += step) {
    for (let x = 0; x + TILE <= width; x += step) {
      let sum = 0
      for (let dy = 0; dy < TILE; dy++) for (let dx = 0; dx < TILE; dx++) sum += energies[(y + dy) * stride + x + dx]
      tiles.push(sum / TILE ** 2)
    }
  }
  tiles.sort((a, b) => a - b)
  return Math.max(LEAST_NOISE, TIMES * (tiles[Math.floor(tiles.length * QUIET_SHARE)] ?? 0))
}

/** Exposures that differ by less, as factors on encoded values, are of one series; a flash that failed differs by more. */
const MUCH_ALIKE = 1.15
/** Noise in encoded values grows with the gain by its energy's power: 2.2 for photons and 4.4 for the sensor's own. */
const GROWS = 3

/** How much less noise a frame of the usual exposure has, as energies, than one brought to it by `gain`. */
export function quietOf(gain: number): number {
  return gain > MUCH_ALIKE || gain < 1 / MUCH_ALIKE ? gain ** -GROWS : 1
}
