/**
 * A motion from reference-frame pixels p to a frame's pixels q, about the picture's centre C:
 * q − C = scale · R(rotation) (p − C) + (dx, dy); x right, y down, positive rotation turns x towards y.
 */
export interface Similarity {
  scale: number
  rotation_rad: number
  dx_px: number
  dy_px: number
}

export const IDENTITY: Similarity = { scale: 1, rotation_rad: 0, dx_px: 0, dy_px: 0 }

/** First `inner`, then `outer`. */
export function compose(outer: Similarity, inner: Similarity): Similarity {
  const [dx, dy] = turned(outer, inner.dx_px, inner.dy_px)
  return {
    scale: outer.scale * inner.scale,
    rotation_rad: outer.rotation_rad + inner.rotation_rad,
    dx_px: dx + outer.dx_px,
    dy_px: dy + outer.dy_px,
  }
}

export function invert(motion: Similarity): Similarity {
  const back = { scale: 1 / motion.scale, rotation_rad: -motion.rotation_rad, dx_px: 0, dy_px: 0 }
  const [dx, dy] = turned(back, -motion.dx_px, -motion.dy_px)
  return { ...back, dx_px: dx, dy_px: dy }
}

/** The point q for a point p, both measured from the picture's centre. */
export function apply(motion: Similarity, x: number, y: number): [number, number] {
  const [u, v] = turned(motion, x, y)
  return [u + motion.dx_px, v + motion.dy_px]
}

/** Root mean square distance, in px, at the four corners of a `width` × `height` picture. */
export function cornerDistance_px(a: Similarity, b: Similarity, width: number, height: number): number {
  const corners = [-1, 1].flatMap((sx) => [-1, 1].map((sy) => [(sx * width) / 2, (sy * height) / 2]))
  const squares = corners.map(([x, y]) => {
    const [ax, ay] = apply(a, x, y)
    const [bx, by] = apply(b, x, y)
    return (ax - bx) ** 2 + (ay - by) ** 2
  })
  return Math.sqrt(squares.reduce((sum, d) => sum + d, 0) / 4)
}

function turned({ scale, rotation_rad }: Similarity, x: number, y: number): [number, number] {
  const a = scale * Math.cos(rotation_rad)
  const b = scale * Math.sin(rotation_rad)
  return [a * x - b * y, b * x + a * y]
}
