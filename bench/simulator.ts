import { SCENES, SimulatedSeries, type SeriesRequest } from '@/core/simulate'

/** How long the simulated camera takes for a live-view picture and for a full frame of 6 megapixels, by scene. */
function request(scene: string, width_px: number, f: number): SeriesRequest {
  return {
    scene,
    seed: 3,
    camera: {
      sensorWidth_mm: 36,
      width_px,
      height_px: Math.round((width_px * 2) / 3),
      focalLength_mm: scene === 'garden' ? 24 : 100,
      fNumber: f,
      magnification: { nib: 0.5, garden: 0.025 }[scene] ?? 1,
      mover: scene === 'nib' || scene === 'garden' ? 'ring' : 'rail',
    },
    positions_mm: scene === 'garden' ? [0, 150, 430, 1300, 8000] : [0, 2, 4, 6, 8],
    unsteadiness: { shift_px: 0.8, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
  }
}

for (const scene of Object.keys(SCENES)) {
  for (const width of [480, 3000]) {
    const start = performance.now()
    const series = new SimulatedSeries(request(scene, width, 8))
    const sampled = performance.now() - start
    const times = Array.from({ length: series.count }, (_, k) => {
      const begin = performance.now()
      series.shoot(k)
      return performance.now() - begin
    })
    times.sort((a, b) => a - b)
    console.log(
      `${scene}, ${width} px wide: scene ready ${sampled.toFixed(0)} ms; a frame ${times[2].toFixed(0)} ms (most ${times.at(-1)!.toFixed(0)} ms)`,
    )
  }
}
