import { captionHeight } from './caption'
import { standing } from './finish'
import { sizeOf, uprightWithin } from './geometry'
import { croppedBy, placed, resizedBy } from './placed'
import type { Step } from './recipe'

export interface Shape {
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

/**
 * The steps as they are carried out on a proof, a smaller picture of the same: so that it looks as the whole will. `full` is the picture
 * that the recipe is for, `proof` the small one.
 */
export function proofSteps(steps: Step[], full: Shape, proof: Shape): Step[] {
  return broughtTo(standing(steps), full, proof, (step, times, small) => {
    if (step.do === 'crop') return croppedBy(step, times, times, small)
    // A proof keeps its own size.
    if (step.do === 'size') return undefined
    if (step.do !== 'sharpen') return placed(step, resizedBy(times))
    return times * step.radius_px < LEAST_radius_px ? undefined : { ...step, radius_px: times * step.radius_px }
  })
}

/** Steps brought from one picture to another, each by how wide and high the two are at that step. */
export function broughtTo(
  steps: Step[],
  from: Shape,
  to: Shape,
  bring: (step: Step, across: number, there: Shape, down: number) => Step | undefined,
): Step[] {
  let [now, there] = [from, to]
  const out: Step[] = []
  for (const step of steps) {
    const made = bring(step, there.width / now.width, there, there.height / now.height)
    if (made) out.push(made)
    now = shapeAfter([step], now)
    if (made) there = shapeAfter([made], there)
  }
  return out
}
