import { KEY_LIGHT, normalise, shade, smoothStep, type Layer, type Material, type Vector } from './scene'

/** A straight tapered rod: a bristle, a pin, a root. */
export interface Strand {
  from: Vector
  to: Vector
  fromRadius_mm: number
  toRadius_mm: number
  material(along: number, around: number): Material
}

/** A strand as a layer of its own, so that what lies behind it is there when it blurs. */
export function strandLayer(strand: Strand): Layer {
  const { from, to, fromRadius_mm, toRadius_mm } = strand
  const radius = Math.max(fromRadius_mm, toRadius_mm)
  const axis: [number, number] = [to[0] - from[0], to[1] - from[1]]
  const lengthSquared = axis[0] ** 2 + axis[1] ** 2
  const length = Math.sqrt(lengthSquared)
  const depthAlong = (t: number) => from[2] + t * (to[2] - from[2])
  const place = (x: number, y: number) => ((x - from[0]) * axis[0] + (y - from[1]) * axis[1]) / lengthSquared
  return {
    backdrop: false,
    bounds: {
      left: Math.min(from[0], to[0]) - radius,
      right: Math.max(from[0], to[0]) + radius,
      top: Math.min(from[1], to[1]) - radius,
      bottom: Math.max(from[1], to[1]) + radius,
      near: Math.min(from[2], to[2]) - radius,
      far: Math.max(from[2], to[2]) + radius,
    },
    depthAt: (x, y) => depthAlong(Math.min(1, Math.max(0, place(x, y)))),
    rangeAt(top, bottom) {
      // Where its axis passes between the two heights, a radius more on all sides.
      const slope = axis[1] === 0 ? Infinity : 1 / axis[1]
      const ends = [top - radius, bottom + radius].map((y) => (Number.isFinite(slope) ? (y - from[1]) * slope : y > from[1] ? Infinity : -Infinity))
      const [first, last] = [Math.max(0, Math.min(...ends)), Math.min(1, Math.max(...ends))]
      if (first > last) return undefined
      const [a, b] = [from[0] + first * axis[0], from[0] + last * axis[0]]
      return { left: Math.min(a, b) - radius, right: Math.max(a, b) + radius }
    },
    see(x, y, texel_mm, sight) {
      const t = Math.min(1, Math.max(0, place(x, y)))
      const across = ((x - from[0]) * axis[1] - (y - from[1]) * axis[0]) / length
      const [beyondX, beyondY] = [x - from[0] - t * axis[0], y - from[1] - t * axis[1]]
      const beyond = Math.sqrt(beyondX * beyondX + beyondY * beyondY)
      const here = fromRadius_mm + t * (toRadius_mm - fromRadius_mm)
      const inside = Math.min(0.999, beyond / here)
      sight.alpha = Math.min(1, Math.max(0, (here - beyond) / texel_mm + 0.5))
      if (sight.alpha <= 0) return false
      const side = Math.sign(across) * Math.min(0.999, Math.abs(across) / here)
      const normal: Vector = normalise([(side * axis[1]) / length, (-side * axis[0]) / length, -Math.sqrt(1 - inside * inside)])
      sight.z = depthAlong(t) - here * Math.sqrt(1 - inside * inside)
      shade(sight, normal, strand.material(t * length, side), 1, 1)
      return true
    },
  }
}

const CLEAR_mm = 3

/** From where to where, at a height, points no deeper than `deepest` may lie in a strand's shadow: `left` is beyond `right` where none does. */
export function shadowReach({ from, to }: Strand, deepest_mm: number): (y: number) => { left: number; right: number } {
  const longest_mm = Math.max(0, (deepest_mm - Math.min(from[2], to[2])) / -KEY_LIGHT[2])
  // The strand, and the strand moved along the light as far as its shadow may fall: what lies between them, and a little around.
  const corners = [from, to].flatMap(([x, y]) => [0, longest_mm].map((way) => [x - KEY_LIGHT[0] * way, y - KEY_LIGHT[1] * way]))
  const heights = corners.map(([, y]) => y)
  const [top, bottom] = [Math.min(...heights) - CLEAR_mm, Math.max(...heights) + CLEAR_mm]
  return (y) => {
    if (y < top || y > bottom) return { left: Infinity, right: -Infinity }
    let [left, right] = [Infinity, -Infinity]
    for (const [x0, y0] of corners)
      for (const [x1, y1] of corners) {
        // From each corner to each: what of that passes at this height, or near enough.
        const ends = [y - CLEAR_mm, y + CLEAR_mm].map((level) => (y1 === y0 ? (level - y0) * Infinity : (level - y0) / (y1 - y0)))
        const [first, last] = [Math.max(0, Math.min(...ends)), Math.min(1, Math.max(...ends))]
        if (!(first <= last)) continue
        for (const t of [first, last]) {
          left = Math.min(left, x0 + t * (x1 - x0) - CLEAR_mm)
          right = Math.max(right, x0 + t * (x1 - x0) + CLEAR_mm)
        }
      }
    return { left, right }
  }
}

/** How much key light a strand lets through to a point: 1 clear of it, less in its soft shadow. */
export function shadowOf({ from, to, fromRadius_mm, toRadius_mm }: Strand, x: number, y: number, z: number): number {
  // Along the light direction from the point, at the depth of the strand nearest to that ray.
  let light = 1
  for (let pass = 0, t = 0.5; pass < 2; pass++) {
    const strandZ = from[2] + t * (to[2] - from[2])
    const distance = (z - strandZ) / -KEY_LIGHT[2]
    if (distance <= 0) return 1
    const rayX = x + KEY_LIGHT[0] * distance
    const rayY = y + KEY_LIGHT[1] * distance
    const axisX = to[0] - from[0]
    const axisY = to[1] - from[1]
    t = Math.min(1, Math.max(0, ((rayX - from[0]) * axisX + (rayY - from[1]) * axisY) / (axisX ** 2 + axisY ** 2)))
    const gapX = rayX - from[0] - t * axisX
    const gapY = rayY - from[1] - t * axisY
    const gap = Math.sqrt(gapX * gapX + gapY * gapY)
    // A strand leans little along its length: what misses it by this much now misses it in the end.
    if (gap > CLEAR_mm) return 1
    const radius = fromRadius_mm + t * (toRadius_mm - fromRadius_mm)
    const penumbra = 0.05 + 0.12 * distance
    const strength = Math.min(1, (2 * radius) / (2 * radius + penumbra))
    light = 1 - strength * (1 - smoothStep(radius * 0.5, radius + penumbra, gap))
  }
  return light
}
