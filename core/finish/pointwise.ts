import { strokeBounds, strokeMask } from '../mend'
import { FADE_steps, operationWords, TONE_steps, Workspace, type Kernels, type Operation } from '../raster/kernels'
import { refusal } from '../words'
import type { Canvas } from './canvas'
import { cardGains } from './card'
import type { Place, StepName, StepOf } from './recipe'
import { smoothstep, toneGains } from './tones'

/** Steps that change each pixel by itself: rows go through all of them at once. */
export type PointwiseName = 'neutral' | 'card' | 'light' | 'tones' | 'colour' | 'gradient' | 'depthGradient' | 'local'
type PointwiseStep = StepOf<PointwiseName>

/** What an operation needs of the picture that it is made for. */
interface Bench {
  canvas: Canvas
  memory: Workspace
  /** Puts a table or map into the kernels' memory. */
  put(values: Float32Array | Uint16Array): number
  /** The depth in the kernels' memory. @throws Refusal where none is known. */
  depth(): number
  /** The mean light of a place, after the operations so far. */
  look(place: Place, radius_px: number): [red: number, green: number, blue: number]
}

const OPERATIONS: { [K in PointwiseName]: (step: StepOf<K>, bench: Bench) => Operation } = {
  neutral: ({ at, radius_px }, { canvas: { space }, look }) => {
    const mean = look(at, radius_px)
    const grey = mean.reduce((sum, light, c) => sum + space.luminance[c] * light, 0)
    // Nothing can be said of the colour of what is black.
    const [red, green, blue] = mean.map((light) => (light > 1e-5 ? grey / light : 1))
    return { kind: 'scale', red, green, blue }
  },
  card: ({ card }, { canvas: { space } }) => {
    const [red, green, blue] = cardGains(card, space)
    return { kind: 'scale', red, green, blue }
  },
  light: ({ stops }) => ({ kind: 'scale', red: 2 ** stops, green: 2 ** stops, blue: 2 ** stops }),
  tones: ({ points }, { put }) => ({ kind: 'tones', table: put(toneGains(points, TONE_steps)) }),
  colour: ({ strength }) => ({ kind: 'colour', strength }),
  gradient: ({ from: [ax, ay], to: [bx, by], stops }, { put }) => {
    const [ux, uy] = [bx - ax, by - ay]
    const perLength = 1 / (ux * ux + uy * uy)
    return { kind: 'fade', table: put(fading(stops)), start: -(ax * ux + ay * uy) * perLength, across: ux * perLength, down: uy * perLength }
  },
  depthGradient: ({ from, to, stops }, { put, depth }) => {
    const perDepth = 1 / (to - from)
    return { kind: 'fadeByMap', table: put(fading(stops)), map: depth(), start: -from * perDepth, across: perDepth / 65535 }
  },
  local: ({ stops, gate, ...stroke }, { canvas: { width, height, depth }, memory }) => {
    if (gate && !depth) throw refusal('finish.noDepth')
    const part = strokeBounds(stroke, width, height)
    const { strength, at: map } = strokeMask({ ...stroke, opacity: 1 }, part, memory)
    for (let y = 0, i = 0; y < part.height; y++)
      for (let x = 0; x < part.width; x++, i++) {
        const at = gate ? depth!.data[(part.y + y) * width + part.x + x] / 65535 : 0
        strength[i] = strength[i] === 0 || (gate && (at < gate.near || at > gate.far)) ? 1 : 2 ** (stops * strength[i])
      }
    return { kind: 'gains', map, ...part }
  },
}

export const isPointwise = (name: StepName): name is PointwiseName => name in OPERATIONS

/** The factor at a part of the way from where all of it is done to where nothing is. */
const fading = (stops: number): Float32Array =>
  Float32Array.from({ length: FADE_steps + 2 }, (_, k) => 2 ** (stops * (1 - smoothstep(Math.min(1, k / FADE_steps)))))

/** Changes a canvas in place by steps, all of them on one way to light and back. @throws Refusal where a step cannot be done with it. */
export function pointwise(canvas: Canvas, steps: PointwiseStep[], kernels: Kernels): void {
  const { samples, width, height, space, depth } = canvas
  const memory = new Workspace(kernels, width)
  const put = (values: Float32Array | Uint16Array) => {
    const at = memory.bytes(values.byteLength)
    const Kind = values instanceof Uint16Array ? Uint16Array : Float32Array
    new Kind(kernels.buffer(), at, values.length).set(values)
    return at
  }
  const tables = [put(space.light), put(space.samples)]
  let depthAt: number | undefined
  const operations: Operation[] = []
  /** Carries the operations so far out on rows in the kernels' memory; `lights` is where light goes instead of samples. */
  const run = (rows: number, at: number, top: number, lights: number) => {
    const program = put(new Float32Array(operationWords(operations, space.luminance)))
    kernels.run('finishRows', [at, width, top, ...tables, program, operations.length, lights], rows)
  }
  const look = ([x, y]: Place, radius_px: number): [number, number, number] => {
    const top = Math.max(0, Math.ceil(y - radius_px))
    const rows = Math.max(0, Math.min(height - 1, Math.floor(y + radius_px)) - top + 1)
    const at = put(samples.subarray(3 * top * width, 3 * (top + rows) * width))
    const lights = memory.bytes(12 * rows * width + 64)
    run(rows, at, top, lights)
    const light = new Float32Array(kernels.buffer(), lights, 3 * rows * width)
    const sum = [0, 0, 0]
    let count = 0
    for (let v = 0; v < rows; v++)
      for (let u = Math.max(0, Math.ceil(x - radius_px)); u <= Math.min(width - 1, x + radius_px); u++) {
        if (Math.hypot(u - x, v + top - y) > radius_px) continue
        for (let c = 0; c < 3; c++) sum[c] += light[3 * (v * width + u) + c]
        count++
      }
    if (count === 0) throw refusal('finish.placeOutside', { x: Math.round(x), y: Math.round(y) })
    return [sum[0] / count, sum[1] / count, sum[2] / count]
  }
  const bench: Bench = {
    canvas,
    memory,
    put,
    look,
    depth: () => {
      if (!depth) throw refusal('finish.noDepth')
      return (depthAt ??= put(depth.data))
    },
  }
  for (const step of steps) operations.push((OPERATIONS[step.do] as (step: PointwiseStep, bench: Bench) => Operation)(step, bench))
  const at = put(samples)
  run(height, at, 0, 0)
  samples.set(new Uint16Array(kernels.buffer(), at, samples.length))
}
