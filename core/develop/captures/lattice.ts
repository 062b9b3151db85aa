/** Where the sensor stood for each capture of a set, and what that makes of them together. */
export interface Lattice {
  /** From the first capture, px of the sensor, in halves: a pixel sees what lies there in the first one. */
  places: [x_px: number, y_px: number][]
  /** How many times as many pixels as the sensor's, across and down, see all three colours. */
  finer: 1 | 2
}

/** How many captures a set may have. */
export const CAPTURES = [32, 16, 8, 4] as const

/** A sensor is moved by half pixels; what was measured may differ by so much. */
export const NEAR_px = 0.2

/**
 * The lattice of captures measured to lie so far from the first. Behind a mosaic of two by two, four places one pixel apart show all
 * colours to every pixel; sixteen half a pixel apart do so on twice as many pixels across and down. Undefined where they do neither.
 */
export function latticeOf(offsets: readonly (readonly [number, number])[]): Lattice | undefined {
  const places = offsets.map(([x, y]): [number, number] => [halved(x), halved(y)])
  if (places.some(([x, y], k) => Math.hypot(offsets[k][0] - x, offsets[k][1] - y) > NEAR_px)) return undefined
  const classes = new Set(places.map(classOf))
  if (classes.size === 16) return { places, finer: 2 }
  return WHOLE.every((whole) => classes.has(whole)) ? { places, finer: 1 } : undefined
}

/** To half pixels; never −0. */
const halved = (value: number) => Math.round(2 * value) / 2 + 0

/** Which of the sixteen half pixels of two by two a place lies on: the filters repeat after those. */
export const classOf = ([x, y]: readonly [number, number]): number => 4 * ((2 * y) & 3) + ((2 * x) & 3)

/** The four that lie on whole pixels. */
const WHOLE = [0, 2, 8, 10]
