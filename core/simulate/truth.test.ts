import { SimulatedSeries } from './series'
import { closeUp } from './testRequests'

test('the true depth is that of a surface, never of the air between a bristle and its ground', () => {
  const series = new SimulatedSeries(closeUp({ seed: 4, positions_mm: [0, 4, 8], fullWell: 20_000 }, { width_px: 360, height_px: 240 }))
  const { data, width, height } = series.truthDepth_mm()
  let [steps, between] = [0, 0]
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x
      const [left, right] = [data[i - 1], data[i + 1]]
      if (Math.abs(left - right) < 2) continue
      steps++
      const [near, far] = [Math.min(left, right), Math.max(left, right)]
      if (data[i] > near + 0.3 * (far - near) && data[i] < far - 0.3 * (far - near)) between++
    }
  }
  expect(steps).toBeGreaterThan(500)
  expect(between / steps).toBeLessThan(0.02)
})
