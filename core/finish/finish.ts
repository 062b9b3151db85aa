import type { Canvas, Tools } from './canvas'
import { crop, resize, straighten } from './geometry'
import { drawCaption } from './caption'
import { isPointwise, pointwise, type PointwiseName } from './pointwise'
import type { Step, StepName, StepOf } from './recipe'
import { drawScaleBar } from './scaleBar'
import { sharpen } from './sharpen'

type WholeName = Exclude<StepName, PointwiseName>

/** Steps that look at more than one pixel, or change the picture's size. */
const WHOLE: { [K in WholeName]: (canvas: Canvas, step: StepOf<K>, tools: Tools) => Canvas | Promise<Canvas> } = {
  crop,
  straighten: (canvas, step, { kernels }) => straighten(canvas, step, kernels),
  size: resize,
  sharpen: (canvas, step, { kernels }) => {
    sharpen(canvas, step, kernels)
    return canvas
  },
  scaleBar: async (canvas, step, tools) => {
    await drawScaleBar(canvas, step, tools)
    return canvas
  },
  caption: drawCaption,
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
    if (together.length > 0) pointwise(now, together as StepOf<PointwiseName>[], tools.kernels)
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
