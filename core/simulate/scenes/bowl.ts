import { fractalNoise, noise } from '../random'
import { reliefLayer } from '../relief'
import { smoothStep, type Scene, type Vector } from '../scene'

const DEPTH_mm = 9

/** A test scene: a glazed bowl upside down on a grey cloth, smooth and shining, a fine crackle here and there. */
export function bowlScene(seed: number): Scene {
  const away = (x: number, y: number) => Math.hypot(x + 3, y * 1.15 - 2)
  /** 1 on the bowl, 0 on the cloth. */
  const on = (x: number, y: number) => 1 - smoothStep(10.8, 11.2, away(x, y))
  const crackle = (x: number, y: number) => {
    const line = Math.abs(noise(x * 0.9, y * 0.9, seed + 2) - 0.5)
    return (1 - smoothStep(0.004, 0.014, line)) * smoothStep(0.45, 0.6, fractalNoise(x * 0.15, y * 0.15, seed + 3, 2))
  }
  const bowl = reliefLayer({
    width_mm: 40,
    height_mm: 28,
    depth: (x, y) => {
      // Upside down, its rim on the cloth: no step of depth that would have to hide anything.
      const inside = Math.max(0, 1 - (away(x, y) / 11) ** 2)
      return DEPTH_mm - 0.8 - 0.02 * x - 7 * inside
    },
    grain: (x, y) => (1 - on(x, y)) * 0.03 * fractalNoise(x * 6, y * 6, seed + 5, 2) - 0.004 * crackle(x, y),
    material: (x, y) => {
      if (on(x, y) < 0.5) {
        const weave = 0.5 + 0.25 * Math.sin(x * 21) + 0.25 * Math.sin(y * 21)
        return { albedo: [0.17, 0.17, 0.18].map((v) => v * (0.75 + 0.4 * weave)) as Vector, gloss: 0, shininess: 1 }
      }
      const dark = 1 - 0.6 * crackle(x, y)
      const band = smoothStep(0.1, 0, Math.abs(away(x, y) - 7.5) - 0.5)
      return { albedo: [0.34 - 0.2 * band, 0.36 - 0.14 * band, 0.35 + 0.02 * band].map((v) => v * dark) as Vector, gloss: 1.1, shininess: 160 }
    },
  })
  return { depth_mm: DEPTH_mm, layers: [bowl] }
}
