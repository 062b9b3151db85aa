import { finish, spaceOf, type Canvas, type Step } from '@/core/finish'
import { LIBRARY } from '../cli/finish/runFinish'
import { gatherTeam } from '../cli/fuse/team'

/** How long a recipe of eight steps takes on a large picture, beside reading and writing it: `npm run bench:finish -- 24`. */
const [megapixels = '24'] = process.argv.slice(2)
const width = Math.round(Math.sqrt(Number(megapixels) * 1.5e6) / 6) * 6
const height = (width * 2) / 3
/** Soft shapes with the noise of a usual exposure: where samples jump about as in no picture, every table is slow. */
function picture(): Uint16Array {
  const samples = new Uint16Array(3 * width * height)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++, i++) samples[i] = 26_000 + 20_000 * Math.sin(x / 310 + c) * Math.cos(y / 270) + (((i * 2654435761) >>> 16) % 1200)
  return samples
}
const depth = { width, height, data: new Uint16Array(width * height).map((_, i) => i % 65536) }
const canvas = (samples: Uint16Array): Canvas => ({ samples, width, height, depth, confidence: depth, space: spaceOf(), scale: 1 })

const STEPS: Step[] = [
  { do: 'light', stops: 0.3 },
  { do: 'neutral', at: [width / 2, height / 2], radius_px: 20 },
  { do: 'tones', points: [[-8, -7.6], [-4, -3.7], [-1, -1], [0, 0]] }, // prettier-ignore
  { do: 'colour', strength: 1.1 },
  { do: 'gradient', from: [0, 0], to: [width / 2, height / 2], stops: -0.8 },
  { do: 'depthGradient', from: 0.8, to: 0.2, stops: -0.4 },
  { do: 'local', path: [[width / 4, height / 4], [width / 2, height / 3], [width / 2, height / 2]], radius_px: 300, softness: 0.7, stops: 0.5 }, // prettier-ignore
  { do: 'sharpen', radius_px: 1.2, amount: 0.6, threshold: 0.01 },
]
const start = picture()
const team = await gatherTeam()
const tools = { ...LIBRARY, kernels: team.kernels }
for (const steps of [...STEPS.map((step) => [step]), STEPS]) {
  const samples = start.slice()
  const began = performance.now()
  await finish(canvas(samples), steps, tools)
  const seconds = (performance.now() - began) / 1000
  console.log(`${steps.length === 1 ? steps[0].do.padEnd(14) : 'all eight     '} ${seconds.toFixed(2)} s`)
}
console.log(`${width} × ${height}; ${Math.round(process.resourceUsage().maxRSS / 1024)} MB at the most`)
await team.dismiss()
