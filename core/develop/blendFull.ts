/** Within this of what fills a pixel nobody knows how much light there was. */
const FULL = 0.99

/**
 * Gives pixels that are full in one colour at least a colour that is known: as much of it as they have when all channels are cut where the
 * first of them is full, at the brightness they were counted with. In place.
 * @param samples interleaved red, green, blue of the camera in 16 bits, scaled by `multipliers` so that the largest of them fills 16 bits.
 */
export function blendFull(samples: Uint16Array, multipliers: readonly number[]): void {
  const most = Math.max(...multipliers)
  const [fullRed, fullGreen, fullBlue] = multipliers.map((factor) => (FULL * 65_535 * factor) / most)
  const cut = Math.min(fullRed, fullGreen, fullBlue)
  for (let i = 0; i < samples.length; i += 3) {
    const [red, green, blue] = [samples[i], samples[i + 1], samples[i + 2]]
    if (red < fullRed && green < fullGreen && blue < fullBlue) continue
    const mean = (red + green + blue) / 3
    const colour = spread(red, green, blue)
    const known = spread(Math.min(red, cut), Math.min(green, cut), Math.min(blue, cut))
    const part = colour > 0 ? known / colour : 0
    for (let c = 0; c < 3; c++) samples[i + c] = Math.min(65_535, Math.max(0, mean + part * (samples[i + c] - mean) + 0.5))
  }
}

function spread(red: number, green: number, blue: number): number {
  const mean = (red + green + blue) / 3
  return Math.hypot(red - mean, green - mean, blue - mean)
}
