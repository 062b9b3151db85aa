import { captionHeight } from './caption'
import { standing } from './finish'
import { sizeOf, uprightWithin } from './geometry'
import type { Place, Step, StepName, StepOf } from './recipe'

interface Shape {
  width: number
  height: number
}

/** The size of a picture after steps. @throws Refusal where a size that is asked for cannot be. */
export function shapeAfter(steps: Step[], shape: Shape): Shape {
  return standing(steps).reduce<Shape>((now, step) => {
    if (step.do === 'crop') return { width: step.width, height: step.height }
    if (step.do === 'straighten') return uprightWithin(now.width, now.height, step.degrees)
    if (step.do === 'caption') return { width: now.width, height: now.height + captionHeight(step, now.width, now.height) }
    return step.do === 'size' ? sizeOf(step, now.width, now.height) : now
  }, shape)
}

/** Smaller than this a blur is not seen. */
const LEAST_radius_px = 0.3

/** A step for a picture of another size: its places and lengths times so much. */
const SCALED: { [K in StepName]?: (step: StepOf<K>, times: number, proof: Shape) => StepOf<K> | undefined } = {
  crop: ({ x, y, width, height, ...rest }, times, proof) => {
    const [left, top] = [x, y].map((at) => Math.round(times * at))
    const within = (length: number, from: number, most: number) => Math.max(1, Math.min(most - from, Math.round(times * length)))
    const [cropLeft, cropTop] = [Math.min(left, proof.width - 1), Math.min(top, proof.height - 1)]
    return { ...rest, x: cropLeft, y: cropTop, width: within(width, cropLeft, proof.width), height: within(height, cropTop, proof.height) }
  },
  neutral: (step, times) => ({ ...step, at: moved(step.at, times), radius_px: Math.max(1, times * step.radius_px) }),
  gradient: (step, times) => ({ ...step, from: moved(step.from, times), to: moved(step.to, times) }),
  local: (step, times) => ({ ...step, path: step.path.map((at) => moved(at, times)), radius_px: times * step.radius_px }),
  sharpen: (step, times) => (times * step.radius_px < LEAST_radius_px ? undefined : { ...step, radius_px: times * step.radius_px }),
  // A proof keeps its own size.
  size: () => undefined,
}

const moved = ([x, y]: Place, times: number): Place => [times * (x + 0.5) - 0.5, times * (y + 0.5) - 0.5]

/**
 * The steps as they are carried out on a proof, a smaller picture of the same: so that it looks as the whole will. `full` is the picture
 * that the recipe is for, `proof` the small one.
 */
export function proofSteps(steps: Step[], full: Shape, proof: Shape): Step[] {
  let [now, small] = [full, proof]
  const out: Step[] = []
  for (const step of standing(steps)) {
    const scaled = SCALED[step.do] as ((step: Step, times: number, proof: Shape) => Step | undefined) | undefined
    const made = scaled ? scaled(step, small.width / now.width, small) : step
    if (made) out.push(made)
    now = shapeAfter([step], now)
    if (made) small = shapeAfter([made], small)
  }
  return out
}
