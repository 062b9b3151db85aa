import { strokeBounds } from '../mend'
import type { Rectangle } from '../raster'
import type { Canvas, Tools } from './canvas'
import { neutralColour } from './card'
import { finish, standing } from './finish'
import { placed } from './placed'
import { shapeAfter, type Shape } from './proof'
import type { Place, Step } from './recipe'

/** A small part of what will be delivered, to be looked at pixel by pixel. */
export interface Inset {
  /** What of the render it is made from. */
  source: Rectangle
  /** Px of it for one of the render's. */
  scale: number
  /** What is done to it: steps that change the picture's shape are left out, places are its own. */
  steps: Step[]
  /** Where the place that was asked for lies in it, in its own px. */
  at: Place
}

/** Steps that change the shape, which the part follows by where it is taken from, and what is drawn on the finished picture. */
const OF_THE_WHOLE: readonly Step['do'][] = ['crop', 'straighten', 'size', 'scaleBar', 'caption']

/**
 * The part of a picture, `size` px of what is delivered about the place `at`, in px of the picture after the steps. Where the picture is turned
 * the part is not: for judging how sharp it is that makes no difference.
 */
export function insetAt(all: Step[], full: Shape, at: Place, size: Shape): Inset {
  const steps = standing(all)
  const { place, scale } = inRender(steps, full, at)
  const [width, height] = [Math.min(full.width, Math.ceil(size.width / scale)), Math.min(full.height, Math.ceil(size.height / scale))]
  const held = (middle: number, part: number, whole: number) => Math.max(0, Math.min(whole - part, Math.round(middle - part / 2)))
  const source = { x: held(place[0], width, full.width), y: held(place[1], height, full.height), width, height }
  const part = { width: Math.round(width * scale), height: Math.round(height * scale) }
  const own = ([x, y]: Place): Place => [scale * (x - source.x + 0.5) - 0.5, scale * (y - source.y + 0.5) - 0.5]
  const done = steps.flatMap((step, k): Step[] => {
    if (OF_THE_WHOLE.includes(step.do)) return []
    const before = inRender(steps.slice(0, k), full, [0, 0]).scale
    const there = placed(step, { place: (where) => own(inRender(steps.slice(0, k), full, where).place), times: scale / before })
    if (there.do !== 'local') return [there]
    const touched = strokeBounds(there, part.width, part.height)
    return touched.width > 0 && touched.height > 0 ? [there] : []
  })
  return { source, scale, steps: done, at: own(place) }
}

/** Where a place of the picture after steps lies in the render, and how many px after them one px of the render takes. */
function inRender(steps: Step[], full: Shape, at: Place): { place: Place; scale: number } {
  let place = at
  let scale = 1
  for (let k = steps.length - 1; k >= 0; k--) {
    const step = steps[k]
    const [x, y] = place
    if (step.do === 'crop') place = [x + step.x, y + step.y]
    if (step.do !== 'size' && step.do !== 'straighten') continue
    const before = shapeAfter(steps.slice(0, k), full)
    const after = shapeAfter([step], before)
    if (step.do === 'size') {
      const times = after.width / before.width
      place = [(x + 0.5) / times - 0.5, (y + 0.5) / times - 0.5]
      scale *= times
    } else {
      const angle = (-step.degrees * Math.PI) / 180
      const [u, v] = [x - (after.width - 1) / 2, y - (after.height - 1) / 2]
      const [c, s] = [Math.cos(angle), Math.sin(angle)]
      place = [c * u - s * v + (before.width - 1) / 2, s * u + c * v + (before.height - 1) / 2]
    }
  }
  return { place, scale }
}

/** A part of a render in another size, in the space of its samples. */
export type PartOf = (source: Rectangle, scale: number) => Promise<Canvas>

/**
 * Steps with each place that becomes grey told by its colour instead: so they can be carried out on a part that does not show the place.
 * @param partOf fetches a part of the render.
 */
export async function greyByColour(all: Step[], full: Shape, partOf: PartOf, tools: Tools): Promise<Step[]> {
  const steps: Step[] = []
  for (const step of standing(all)) {
    if (step.do !== 'neutral') {
      steps.push(step)
      continue
    }
    const side = 2 * Math.ceil(step.radius_px) + 1
    const { source, scale, steps: before, at } = insetAt(steps, full, step.at, { width: side, height: side })
    const part = await finish(await partOf(source, scale), before, tools)
    steps.push({ do: 'card', card: neutralColour(part, at, step.radius_px) })
  }
  return steps
}
