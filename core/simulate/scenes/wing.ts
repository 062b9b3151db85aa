import { fractalNoise, noise } from '../random'
import { reliefLayer } from '../relief'
import { normalise, shade, smoothStep, type Layer, type Scene, type Vector } from '../scene'

const DEPTH_mm = 7

/** A test scene: clear wings with dark veins, one behind the other, over printed paper that shows through them. */
export function wingScene(seed: number): Scene {
  const paper = reliefLayer({
    width_mm: 40,
    height_mm: 28,
    depth: (x, y) => DEPTH_mm - 0.6 + 0.02 * x - 0.02 * y,
    grain: (x, y) => 0.008 * fractalNoise(x * 9, y * 9, seed, 2),
    material: (x, y) => {
      const ink = smoothStep(0.55, 0.6, noise(x * 4, Math.floor(y / 1.1) * 7.7, seed + 1)) * smoothStep(0.2, 0.3, ((y / 1.1) % 1) + (y < 0 ? 1 : 0))
      const tone = 0.72 - 0.55 * ink + 0.05 * fractalNoise(x * 3, y * 3, seed + 2, 3)
      return { albedo: [tone, tone * 0.97, tone * 0.88], gloss: 0, shininess: 1 }
    },
  })
  return { depth_mm: DEPTH_mm, layers: [paper, wing(seed, [4, 3], 4, -0.5), wing(seed + 9, [-3, -2], 1.2, 0.35)] }
}

/** A slanting oval, clear but for its veins. */
function wing(seed: number, [x0, y0]: [number, number], z0: number, turn: number): Layer {
  const [long, wide] = [13, 5]
  const along = (x: number, y: number) => ((x - x0) * Math.cos(turn) + (y - y0) * Math.sin(turn)) / long
  const across = (x: number, y: number) => (-(x - x0) * Math.sin(turn) + (y - y0) * Math.cos(turn)) / wide
  const depthAt = (x: number, y: number) => z0 + 0.07 * (x - x0) - 0.05 * (y - y0)
  /** How near to a vein, 0 in its middle: long ones that fan out, and cross veins between them. */
  const vein = (x: number, y: number) => {
    const [u, v] = [along(x, y), across(x, y)]
    const fan = Math.abs(Math.sin((v / (1.2 + u)) * 9))
    const cross = Math.abs(Math.sin(u * 26 + 4 * noise(v * 5, u * 3, seed)))
    return Math.min(fan * 1.4, cross * 2.2)
  }
  return {
    backdrop: false,
    bounds: { left: x0 - long, right: x0 + long, top: y0 - long, bottom: y0 + long, near: z0 - 2, far: z0 + 2 },
    depthAt,
    see(x, y, _texel_mm, sight) {
      const rim = along(x, y) ** 2 + across(x, y) ** 2
      if (rim > 1) return false
      const dark = 1 - smoothStep(0.06, 0.16, Math.min(vein(x, y), (1 - rim) * 4))
      const sheen = 0.5 + 0.5 * fractalNoise(x * 0.8, y * 0.8, seed + 4, 3)
      const albedo: Vector = [0.16, 0.11, 0.07].map((v, c) => v * dark + (1 - dark) * [0.75, 0.72, 0.6][c] * sheen) as Vector
      shade(sight, normalise([0.07, -0.05, -1]), { albedo, gloss: 0.5, shininess: 40 }, 1, 1)
      sight.z = depthAt(x, y)
      sight.alpha = 0.28 + 0.72 * dark
      return true
    },
  }
}
