import { normalise, shade, type Layer, type Material, type Vector } from '../scene'

/** Distance of the near edge from the lens, for which landscapes are built: they are seen at the same angles from there only. */
export const NEAR_mm = 550

interface Upright {
  /** Distance from the lens, mm. */
  at: number
  left: number
  right: number
  top: number
  bottom: number
  /** How far it stands out of its plane towards the camera, mm, at most `thick`. */
  relief: (x: number, y: number) => number
  thick: number
  material: (x: number, y: number) => Material
  /** 1 inside its outline, 0 outside. */
  inside: (x: number, y: number) => boolean
  backdrop?: boolean
  sway_mm?: number
}

/** Places nearer to one another than this, in texels, are taken for one. */
const SAME_PLACE = 0.1

/** Something that stands facing the camera. */
export function upright({ at, left, right, top, bottom, relief, thick, material, inside, backdrop = false, sway_mm }: Upright): Layer {
  const z0 = at - NEAR_mm
  // It is looked at from place to place along a row: what stood a texel to the right is the next place's own relief.
  let next = { x: NaN, y: NaN, within_mm: 0, relief: 0 }
  const reliefAt = (x: number, y: number) => (Math.abs(x - next.x) + Math.abs(y - next.y) < next.within_mm ? next.relief : relief(x, y))
  return {
    backdrop,
    bounds: { left, right, top, bottom, near: z0 - thick, far: z0 },
    depthAt: (x, y) => z0 - reliefAt(x, y),
    see(x, y, texel_mm, sight) {
      if (!inside(x, y)) return false
      const here = reliefAt(x, y)
      next = { x: x + texel_mm, y, within_mm: SAME_PLACE * texel_mm, relief: relief(x + texel_mm, y) }
      const slopeX = (here - next.relief) / texel_mm
      const slopeY = (here - relief(x, y + texel_mm)) / texel_mm
      const normal: Vector = normalise([slopeX, slopeY, -1])
      sight.z = z0 - here
      sight.alpha = 1
      shade(sight, normal, material(x, y), 0.62, 0.62)
      return true
    },
    ...(sway_mm && { sway_mm }),
  }
}
