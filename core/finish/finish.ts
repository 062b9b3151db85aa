import { WasmKernels } from '../raster/kernels'
import { refusal } from '../words'
import type { Canvas, Tools } from './canvas'
import { crop, resize, straighten } from './geometry'
import { isPointwise, POINTWISE, type Look, type PointwiseName, type RowWork } from './pointwise'
import type { Step, StepName, StepOf } from './recipe'
import { drawScaleBar } from './scaleBar'
import { sharpen } from './sharpen'
import { fromLight, toLight } from './space'

type WholeName = Exclude<StepName, PointwiseName>

/** Steps that look at more than one pixel, or change the picture's size. */
const WHOLE: { [K in WholeName]: (canvas: Canvas, step: StepOf<K>, tools: Tools) => Canvas | Promise<Canvas> } = {
  crop,
  straighten: (canvas, step) => straighten(canvas, step, new WasmKernels()),
  size: resize,
  sharpen: (canvas, step) => {
    sharpen(canvas, step)
    return canvas
  },
  scaleBar: async (canvas, step, tools) => {
    await drawScaleBar(canvas, step, tools)
    return canvas
  },
}

/**
 * Carries out the steps of a recipe on a picture, in order. The samples that are handed in are used up. Steps that change each pixel by
 * itself are done together, row by row, in light; where there are no steps not a sample changes.
 * @throws Refusal where a step cannot be done with this picture.
 */
export async function finish(canvas: Canvas, all: Step[], tools: Tools): Promise<Canvas> {
  const steps = standing(all)
  let now = canvas
  for (let k = 0; k < steps.length;) {
    const group = steps.slice(k).findIndex((step) => !isPointwise(step.do))
    const together = group < 0 ? steps.slice(k) : steps.slice(k, k + group)
    if (together.length > 0) pointwise(now, together as StepOf<PointwiseName>[])
    k += together.length
    if (k < steps.length) {
      const work = WHOLE[steps[k].do as WholeName] as (canvas: Canvas, step: Step, tools: Tools) => Canvas | Promise<Canvas>
      now = await work(now, steps[k], tools)
      k++
    }
  }
  return now
}

/** The steps that are not switched off. */
export const standing = (steps: Step[]): Step[] => steps.filter(({ off }) => !off)

function pointwise(canvas: Canvas, steps: StepOf<PointwiseName>[]): void {
  const { samples, width, height, space } = canvas
  const works: RowWork[] = []
  // A step that looks at the picture sees what the steps before it make of it.
  const look: Look = (x, y, radius_px) => {
    const sum = [0, 0, 0]
    let count = 0
    const row = new Float32Array(3 * width)
    for (let v = Math.max(0, Math.ceil(y - radius_px)); v <= Math.min(height - 1, y + radius_px); v++) {
      toLight(space, samples, 3 * v * width, row)
      for (const work of works) work(row, v)
      for (let u = Math.max(0, Math.ceil(x - radius_px)); u <= Math.min(width - 1, x + radius_px); u++) {
        if (Math.hypot(u - x, v - y) > radius_px) continue
        for (let c = 0; c < 3; c++) sum[c] += row[3 * u + c]
        count++
      }
    }
    if (count === 0) throw refusal('finish.placeOutside', { x: Math.round(x), y: Math.round(y) })
    return [sum[0] / count, sum[1] / count, sum[2] / count]
  }
  for (const step of steps) {
    if ((step.do === 'depthGradient' || (step.do === 'local' && step.gate)) && !canvas.depth) throw refusal('finish.noDepth')
    const make = POINTWISE[step.do] as (step: Step, canvas: Canvas, look: Look) => RowWork
    works.push(make(step, canvas, look))
  }
  const row = new Float32Array(3 * width)
  for (let y = 0; y < height; y++) {
    toLight(space, samples, 3 * y * width, row)
    for (const work of works) work(row, y)
    fromLight(space, row, samples, 3 * y * width)
  }
}
