/** A point in a picture, as parts of its width and height. */
export interface Point {
  x: number
  y: number
}

/**
 * How many millimetres of a ruler fill the frame's width, from two marks on it that are `apart_mm` apart; undefined
 * where the marks lie on one another. `ratio` is the picture's height over its width.
 */
export function rulerAcross_mm([a, b]: [Point, Point], ratio: number, apart_mm: number): number | undefined {
  const part = Math.hypot(b.x - a.x, (b.y - a.y) * ratio)
  return part > 1e-6 ? apart_mm / part : undefined
}
