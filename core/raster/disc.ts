/**
 * The sum of red, green and blue over a round place of an interleaved picture of 16 bits, over how many pixels, and how many of those have a sample of
 * `full` or more. @param at in px; middles of pixels at whole numbers. @param light of each sample; the sample itself where absent.
 */
export function discSums(
  { samples, width, height }: { samples: Uint16Array; width: number; height: number },
  [x, y]: readonly [number, number],
  radius_px: number,
  full: number,
  light?: Float32Array,
): { sum: [number, number, number]; count: number; full: number } {
  const [left, right] = [Math.max(0, Math.ceil(x - radius_px)), Math.min(width - 1, Math.floor(x + radius_px))]
  const sum: [number, number, number] = [0, 0, 0]
  let [count, over] = [0, 0]
  for (let v = Math.max(0, Math.ceil(y - radius_px)); v <= Math.min(height - 1, Math.floor(y + radius_px)); v++)
    for (let u = left; u <= right; u++) {
      if (Math.hypot(u - x, v - y) > radius_px) continue
      const i = 3 * (v * width + u)
      for (let c = 0; c < 3; c++) sum[c] += light ? light[samples[i + c]] : samples[i + c]
      if (Math.max(samples[i], samples[i + 1], samples[i + 2]) >= full) over++
      count++
    }
  return { sum, count, full: over }
}
