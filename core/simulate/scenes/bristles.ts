import { fractalNoise, noise, randomStream } from '../random'
import { reliefLayer } from '../relief'
import { type Scene, type Vector } from '../scene'
import { strandLayer, type Strand } from '../strand'

const DEPTH_mm = 8

/** A test scene: crossing bristles at every depth over a speckled, slanting ground. */
export function bristlesScene(seed: number): Scene {
  const random = randomStream(seed)
  const strands: Strand[] = Array.from({ length: 16 }, () => {
    const angle = Math.PI * random()
    const halfLength = 22
    const [x, y] = [20 * (random() - 0.5), 14 * (random() - 0.5)]
    const z = 0.2 + 5.6 * random()
    const tone = 0.2 + 0.6 * random()
    return {
      from: [x - halfLength * Math.cos(angle), y - halfLength * Math.sin(angle), z] as Vector,
      to: [x + halfLength * Math.cos(angle), y + halfLength * Math.sin(angle), z + 1.5 * (random() - 0.5)] as Vector,
      fromRadius_mm: 0.07,
      toRadius_mm: 0.12,
      material: (along: number) => ({
        albedo: [tone, tone * 0.8, tone * 0.6].map((v) => v * (0.8 + 0.4 * noise(along * 6, 0, seed))) as Vector,
        gloss: 0.4,
        shininess: 30,
      }),
    }
  })
  strands.sort((a, b) => b.from[2] - a.from[2])
  const ground = reliefLayer(
    {
      width_mm: 40,
      height_mm: 28,
      depth: (x, y) => DEPTH_mm - 1.4 + 0.09 * x - 0.05 * y - 0.8 * fractalNoise(x * 0.4, y * 0.4, seed, 3),
      grain: (x, y) => 0.02 * fractalNoise(x * 8, y * 8, seed + 2, 3),
      material: (x, y) => {
        const tone = 0.25 + 0.6 * fractalNoise(x * 5, y * 5, seed + 4, 5)
        const warm = noise(x * 1.3, y * 1.3, seed + 6)
        return { albedo: [tone, tone * (0.8 + 0.2 * warm), tone * 0.75] as Vector, gloss: 0.02, shininess: 10 }
      },
    },
    strands,
  )
  return { depth_mm: DEPTH_mm, layers: [ground, ...strands.map(strandLayer)] }
}
