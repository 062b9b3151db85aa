/**
 * A scene as the camera sees it: x to the right, y down, z away from the camera, in mm; z = 0 is the subject's near
 * edge. Colours are linear light, 1 = diffuse white in full light.
 */
export interface Scene {
  depth_mm: number
  /** From the farthest to the nearest; each covers what stands before it in the list. */
  layers: Layer[]
}

/** What a ray meets: depth, colour, and how much of the ray is stopped. */
export interface Sight {
  z: number
  red: number
  green: number
  blue: number
  alpha: number
}

/** One connected surface, without holes where it hides itself. */
export interface Layer {
  /** The backmost layer fills the picture; the others have an outline. */
  backdrop: boolean
  /** What x, y, z range the layer lies in. */
  bounds: { left: number; right: number; top: number; bottom: number; near: number; far: number }
  /** Fills `sight` for the point (x, y) of the layer; false where there is nothing. `texel_mm` is a sample's size. */
  see(x: number, y: number, texel_mm: number, sight: Sight): boolean
  /** Depth at (x, y), to find where a slanting ray meets the layer. */
  depthAt(x: number, y: number): number
  /** The x range that holds all of it between two heights; within its bounds where absent. What is thin leaves most of its box empty. */
  rangeAt?(top: number, bottom: number): { left: number; right: number } | undefined
  /** How far wind carries it to either side, in mm; it stands still where absent. */
  sway_mm?: number
  /** The layer at another moment, where it looks different every time: running water. */
  at?(moment: number): Layer
}

export type Vector = [number, number, number]

export function normalise([x, y, z]: Vector): Vector {
  // Not Math.hypot, which guards against overflow at five times the price.
  const length = Math.sqrt(x * x + y * y + z * z)
  return [x / length, y / length, z / length]
}

/** A bench lit by one large soft light from the upper left and a weaker fill. Directions point to the light. */
export const KEY_LIGHT = normalise([-0.62, -0.55, -0.72])
/** Half vector between the light and the camera, which looks along +z. */
const HALF = normalise([KEY_LIGHT[0], KEY_LIGHT[1], KEY_LIGHT[2] - 1])
const FILL_LIGHT = normalise([0.75, 0.2, -0.6])
const KEY: Vector = [2.05, 1.95, 1.8]
const FILL: Vector = [0.32, 0.37, 0.46]
const AMBIENT: Vector = [0.2, 0.21, 0.24]

export interface Material {
  albedo: Vector
  /** Strength and narrowness of the reflection of the key light. */
  gloss: number
  shininess: number
  /** How much of the room a polished metal mirrors, tinted by its albedo; 0 for everything else. */
  mirror?: number
}

/** Lights a point of a surface with its normal (towards the camera), shadow (1 = lit) and openness to the sky. */
export function shade(sight: Sight, normal: Vector, { albedo, gloss, shininess, mirror = 0 }: Material, lit: number, open: number): void {
  const key = Math.max(0, dot(normal, KEY_LIGHT)) * lit
  const fill = Math.max(0, dot(normal, FILL_LIGHT)) * open
  const glint = gloss > 0 ? gloss * lit * Math.max(0, dot(normal, HALF)) ** shininess : 0
  const room = mirror > 0 ? mirror * mirrored(normal) * (0.4 + 0.6 * lit) * open : 0
  const diffuse = 1 - mirror
  sight.red = albedo[0] * (diffuse * (KEY[0] * key + FILL[0] * fill + AMBIENT[0] * open) + room) + glint * KEY[0]
  sight.green = albedo[1] * (diffuse * (KEY[1] * key + FILL[1] * fill + AMBIENT[1] * open) + room) + glint * KEY[1]
  sight.blue = albedo[2] * (diffuse * (KEY[2] * key + FILL[2] * fill + AMBIENT[2] * open) + room) + glint * KEY[2]
}

/** The room in a mirror: a dark studio with a long soft light to the left and a low bright wall to the right. */
function mirrored([nx, ny, nz]: Vector): number {
  const x = -2 * nz * nx
  const y = -2 * nz * ny
  const light = smoothStep(0.12, 0.4, -x * 0.8 - y * 0.6) * (1 - smoothStep(0.75, 1, -x * 0.8 - y * 0.6))
  const wall = smoothStep(0.45, 0.8, x * 0.75 + y * 0.66)
  return 0.25 + 2.3 * light + 0.8 * wall
}

export function dot(a: Vector, b: Vector): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

export function smoothStep(from: number, to: number, value: number): number {
  const t = Math.min(1, Math.max(0, (value - from) / (to - from)))
  return t * t * (3 - 2 * t)
}
