import type { Place, Step, StepName, StepOf } from './recipe'

/** How a picture lies on another one: where a place of it is found there, and how many px of it a length of one px takes. */
export interface Lying {
  place: (at: Place) => Place
  times: number
}

/** Steps that belong to places, each with its places and lengths brought to another picture. */
const PLACED: { [K in StepName]?: (step: StepOf<K>, lying: Lying) => StepOf<K> } = {
  neutral: (step, { place, times }) => ({ ...step, at: place(step.at), radius_px: Math.max(1, times * step.radius_px) }),
  gradient: (step, { place }) => ({ ...step, from: place(step.from), to: place(step.to) }),
  local: (step, { place, times }) => ({ ...step, path: step.path.map(place), radius_px: times * step.radius_px }),
}

/** A step as it is for another picture; one that belongs to no place is the same there. */
export function placed(step: Step, lying: Lying): Step {
  const bring = PLACED[step.do] as ((step: Step, lying: Lying) => Step) | undefined
  return bring ? bring(step, lying) : step
}

/** A picture that shows the same in another size: so many times as wide and as high. Middles of pixels lie at whole numbers. */
export function resizedBy(across: number, down = across): Lying {
  return { place: ([x, y]) => [across * (x + 0.5) - 0.5, down * (y + 0.5) - 0.5], times: Math.sqrt(across * down) }
}

/** The same part of a picture in another size and shape; where the shape is another the part keeps its own, about the same middle. */
export function croppedBy(step: StepOf<'crop'>, across: number, down: number, picture: { width: number; height: number }): StepOf<'crop'> {
  const times = Math.min(across, down)
  const length = (px: number, most: number) => Math.max(1, Math.min(most, Math.round(times * px)))
  const [width, height] = [length(step.width, picture.width), length(step.height, picture.height)]
  const start = (from: number, px: number, by: number, length_px: number, most: number) =>
    Math.max(0, Math.min(most - length_px, Math.round(by * from + (by * px - times * px) / 2)))
  return {
    ...step,
    x: start(step.x, step.width, across, width, picture.width),
    y: start(step.y, step.height, down, height, picture.height),
    width,
    height,
  }
}
