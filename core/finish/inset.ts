import type { Rectangle } from '../raster'
import { standing } from './finish'
import { shapeAfter } from './proof'
import type { Place, Step } from './recipe'

/** A small part of what will be delivered, to be looked at pixel by pixel. */
export interface Inset {
  /** What of the render it is made from. */
  source: Rectangle
  /** Px of it for one of the render's. */
  scale: number
  /** What is done to it: steps that change pixels wherever they lie, and sharpening. */
  steps: Step[]
}

/** Steps that do the same wherever a pixel lies. */
const EVERYWHERE: readonly Step['do'][] = ['light', 'tones', 'colour', 'sharpen']

/**
 * The part of a picture, `size` px of what is delivered about the place `at`, in px of the picture after the steps. Where the picture is turned
 * the part is not: for judging how sharp it is that makes no difference.
 */
export function insetAt(all: Step[], full: { width: number; height: number }, at: Place, size: { width: number; height: number }): Inset {
  const steps = standing(all)
  let place = at
  let scale = 1
  for (let k = steps.length - 1; k >= 0; k--) {
    const step = steps[k]
    const before = shapeAfter(steps.slice(0, k), full)
    const after = shapeAfter(steps.slice(0, k + 1), full)
    const [x, y] = place
    if (step.do === 'crop') place = [x + step.x, y + step.y]
    else if (step.do === 'size') {
      const times = after.width / before.width
      place = [(x + 0.5) / times - 0.5, (y + 0.5) / times - 0.5]
      scale *= times
    } else if (step.do === 'straighten') {
      const angle = (-step.degrees * Math.PI) / 180
      const [u, v] = [x - (after.width - 1) / 2, y - (after.height - 1) / 2]
      const [c, s] = [Math.cos(angle), Math.sin(angle)]
      place = [c * u - s * v + (before.width - 1) / 2, s * u + c * v + (before.height - 1) / 2]
    }
  }
  const [width, height] = [Math.ceil(size.width / scale), Math.ceil(size.height / scale)]
  const held = (middle: number, part: number, whole: number) => Math.max(0, Math.min(whole - part, Math.round(middle - part / 2)))
  const source = { x: held(place[0], width, full.width), y: held(place[1], height, full.height), width, height }
  return { source, scale, steps: steps.filter((step) => EVERYWHERE.includes(step.do)) }
}
