/** Size and softness of the porthole, in px of the screen and as a part of its radius. */
export interface Hole {
  radius_px: number
  softness: number
}

export const LEAST_hole_px = 4
export const MOST_hole_px = 400

/** The porthole's rims: the outer one is dragged for its size, the inner one for its softness. */
export type Rim = 'outer' | 'inner'

/** The rim that is grabbed so far from the middle: the nearer one; the outer one where they meet. */
export function rimAt({ radius_px, softness }: Hole, distance_px: number): Rim {
  const inner_px = radius_px * (1 - softness)
  return Math.abs(distance_px - inner_px) < Math.abs(distance_px - radius_px) || (softness === 0 && distance_px < radius_px) ? 'inner' : 'outer'
}

/** The hole after its rim was dragged so far from the middle. */
export function dragged(hole: Hole, rim: Rim, distance_px: number): Hole {
  if (rim === 'outer') return sized(hole, distance_px)
  return softened(hole, 1 - distance_px / hole.radius_px)
}

/** Of another size, within what is of use. */
export const sized = (hole: Hole, radius_px: number): Hole => ({ ...hole, radius_px: clamp(radius_px, LEAST_hole_px, MOST_hole_px) })

/** As soft as asked, between hard and soft from the middle on. */
export const softened = (hole: Hole, softness: number): Hole => ({ ...hole, softness: clamp(softness, 0, 1) })

/** How much a stroke covers: all, but for a pen what it was pressed by at most, where twice the usual pressure is all. */
export const firmness = (pressures: number[]) => (pressures.length === 0 ? 1 : clamp(2 * Math.max(...pressures), 0.05, 1))

/**
 * A place in the picture to 1/64 px. Such numbers stay exact when a part of the picture is computed by itself, so that a rim that runs through
 * the middle of a pixel falls to the same side on the screen as in the file.
 */
export const settled = (at_px: number) => Math.round(64 * at_px) / 64

const clamp = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value))
