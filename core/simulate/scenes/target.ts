import { CODE, EDGE_s, EDGE_u, inkUntil, LADDER_u, LARGE_dot, rowAt, ROWS, SMALL_dot } from '../../learn/target'
import { normalise, shade, type Layer, type Scene, type Vector } from '../scene'

/** How the printed sheet lies before the simulated camera, and how well it is printed. */
export interface SheetSetup {
  /** Distance of its dots. */
  pitch_mm: number
  /** Between the sheet and the plane of the sensor; its upper end lies farther away. */
  tilt_deg: number
  /** Turned within its own plane. */
  turned_deg: number
  /** Turned about the camera's axis. */
  rolled_deg: number
  /** How far ink spreads and edges fray, mm. */
  print_mm: number
  /**
   * A lens whose field is curved focuses so much nearer at {@link CURVED_u} pitches from its axis than on it: drawn as a sheet that bends away by as
   * much, for which it is the same.
   */
  curved_mm?: number
}

export const CURVED_u = 10

export const USUAL_SHEET: SheetSetup = { pitch_mm: 1, tilt_deg: 45, turned_deg: 0, rolled_deg: 0, print_mm: 0.04 }

const PAPER = 0.42
const INK = 0.03
/** The table that it lies on, of the same plane. */
const TABLE = 0.12
/** Ink between the left edge and places so far apart is added up beforehand, in pitches. */
const STEP_u = 0.01

/**
 * A slanting sheet of paper with dots and bars. Its middle lies at half the depth.
 */
export function targetScene({ pitch_mm, tilt_deg, turned_deg, rolled_deg, print_mm, curved_mm = 0 }: SheetSetup): Scene {
  const [tilt, turned, rolled] = [tilt_deg, turned_deg, rolled_deg].map((degrees) => (degrees * Math.PI) / 180)
  const slope = -Math.tan(tilt)
  const [cosRoll, sinRoll] = [Math.cos(rolled), Math.sin(rolled)]
  const [cosTurn, sinTurn] = [Math.cos(turned), Math.sin(turned)]
  const normal: Vector = normalise([slope * sinRoll, slope * cosRoll, -1])
  const ink = Float64Array.from({ length: Math.ceil((2 * EDGE_u) / STEP_u) + 2 }, (_, k) => inkUntil(-EDGE_u + k * STEP_u))
  const inkTo = (u: number) => {
    const at = Math.min(ink.length - 1.001, Math.max(0, (u + EDGE_u) / STEP_u))
    const k = Math.floor(at)
    return ink[k] + (at - k) * (ink[k + 1] - ink[k])
  }
  /** Height in the picture before the roll, which depth goes by. */
  const upright = (x: number, y: number) => sinRoll * x + cosRoll * y
  const side_mm = 40 * pitch_mm
  const depth_mm = 2 * EDGE_s * pitch_mm * Math.sin(tilt)
  const depthAt = (height: number) => depth_mm / 2 + slope * height
  const bend = curved_mm / (CURVED_u * pitch_mm) ** 2
  const bentAt = (x: number, y: number) => depthAt(upright(x, y)) + bend * (x * x + y * y)
  const reach_mm = 1.5 * side_mm * Math.tan(tilt) + Math.abs(bend) * 2 * side_mm ** 2
  const layer: Layer = {
    backdrop: true,
    bounds: { left: -side_mm, right: side_mm, top: -side_mm, bottom: side_mm, near: depth_mm / 2 - reach_mm, far: depth_mm / 2 + reach_mm },
    depthAt: bentAt,
    see(x, y, texel_mm, sight) {
      const height = upright(x, y)
      const [across, along] = [(cosRoll * x - sinRoll * y) / pitch_mm, height / Math.cos(tilt) / pitch_mm]
      const [u, s] = [cosTurn * across + sinTurn * along, -sinTurn * across + cosTurn * along]
      sight.z = bentAt(x, y)
      sight.alpha = 1
      const light = lightAt(u, s, Math.max(texel_mm, print_mm) / pitch_mm)
      shade(sight, normal, { albedo: [light, light, light], gloss: 0, shininess: 1 }, 0.8, 0.9)
      return true
    },
  }
  /** What the sheet gives back at a place, over a square of `soft` pitches. */
  function lightAt(u: number, s: number, soft: number): number {
    if (Math.abs(u) > EDGE_u || Math.abs(s) > EDGE_s) return TABLE
    const bars = Math.min(1, Math.max(0, (inkTo(u + soft / 2) - inkTo(u - soft / 2)) / soft))
    return PAPER + (INK - PAPER) * Math.max(bars, dotAt(u, s, soft))
  }
  return { depth_mm, layers: [layer] }
}

/** Rows of dots that stand nearest to a place, and how far they cover it. */
function dotAt(u: number, s: number, soft: number): number {
  const row = Math.min(ROWS - 1, Math.max(0, Math.round(s - rowAt(0))))
  const across = Math.abs(u) - LADDER_u
  const along = s - rowAt(row)
  const away = Math.sqrt(across * across + along * along)
  return Math.min(1, Math.max(0, ((CODE[row] ? LARGE_dot : SMALL_dot) - away) / soft + 0.5))
}
