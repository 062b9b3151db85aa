import { WasmKernels } from '@/core/raster/kernels'
import type { Step, Tools } from '@/core/finish'
import { halved, Proving } from '@/ui/deliver/proving'

/**
 * How long the proof takes to answer a handle that is dragged, for each step of a recipe of eight: `npm run bench:proof -- 1400`, the width
 * of the proof in px. While a handle is dragged the proof is of half the size; at rest it is whole.
 */
const width = Number(process.argv[2] ?? 1400)
const height = Math.round((width * 2) / 3)
const full = { width: 6000, height: 4000 }
const data = new Uint16Array(3 * width * height).map((_, i) => 26_000 + 20_000 * Math.sin(i / 9310) + (((i * 2654435761) >>> 16) % 1200))
const depth = { width, height, data: new Uint16Array(width * height).map((_, i) => i % 65536) }
const tools: Tools = {
  kernels: new WasmKernels(),
  resize: async (samples) => samples,
  words: async () => ({ width: 1, height: 1, data: new Uint8Array(1) }),
}
const recipe = (k: number): Step[] => [
  { do: 'crop', x: 100 + k, y: 80, width: 5700, height: 3800 },
  { do: 'light', stops: 0.3 + k / 1000 },
  { do: 'neutral', at: [2900 + k, 1900], radius_px: 20 },
  { do: 'tones', points: [[-8, -7.6], [-4, -3.7 + k / 1000], [-1, -1], [0, 0]] }, // prettier-ignore
  { do: 'gradient', from: [0, k], to: [2000, 1900], stops: -0.8 },
  { do: 'depthGradient', from: 0.8, to: 0.2 + k / 1000, stops: -0.4 },
  { do: 'local', path: [[1400, 900], [1400, 1200 + k], [2900, 1900]], radius_px: 300, softness: 0.7, stops: 0.5 }, // prettier-ignore
  { do: 'sharpen', radius_px: 1.2 + k / 1000, amount: 0.6, threshold: 0.01 },
]
const picture = { width, height, data, depth, confidence: depth }
const base = recipe(0)
for (const [name, proving, quick] of [
  ['dragged', new Proving(halved(picture), full, tools), true],
  ['at rest', new Proving(picture, full, tools), false],
] as const)
  for (const [at, { do: step }] of base.entries()) {
    const times_ms: number[] = []
    for (let k = 1; k <= 25; k++) {
      const steps = base.map((same, s) => (s === at ? recipe(k)[s] : same))
      const began = performance.now()
      await proving.prove(steps, quick)
      times_ms.push(performance.now() - began)
    }
    const sorted = times_ms.slice(3).sort((a, b) => a - b)
    console.log(`${name}  ${step.padEnd(14)} median ${sorted[11].toFixed(1)} ms, at the most ${sorted.at(-1)!.toFixed(1)} ms`)
  }
