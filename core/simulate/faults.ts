import type { Picture, Rectangle } from '../raster'
import { gaussian } from './random'

/** What goes wrong in a run. Frames are counted from 1, as planned. */
export type Fault =
  /**
   * Something was bumped: the picture lies elsewhere from this frame on, by so much of its width. The camera was turned a
   * little, or `pushed` aside: then near things move more than far ones.
   */
  | { kind: 'bump'; frame: number; shift_percent: number; pushed?: boolean }
  /** Wind: every frame lies a little elsewhere. */
  | { kind: 'sway'; shift_px: number }
  /** The flash did not fire. */
  | { kind: 'noFlash'; frame: number; stops: number }
  /** The light is never twice the same. */
  | { kind: 'flicker'; ev: number }
  /** One step came out twice as long. */
  | { kind: 'skippedStep'; frame: number }
  /** The focus did not move before this frame. */
  | { kind: 'repeatedStep'; frame: number }
  /** The camera shook during this exposure. */
  | { kind: 'shake'; frame: number; length_px: number }
  | { kind: 'whiteBalance'; frame: number; red_ev: number; blue_ev: number }
  /** A hand before the lens: an extra frame before this one. */
  | { kind: 'divider'; frame: number }
  /** The series begins so many frames too late, or battery or card end it so many too soon. */
  | { kind: 'startShort'; frames: number }
  | { kind: 'endShort'; frames: number }
  /** It runs on past the subject by so many frames. */
  | { kind: 'runsOn'; frames: number }
  /** From this frame on, for so many, what stands before the backdrop lies elsewhere, by so much of the picture's width. */
  | { kind: 'stirred'; frame: number; frames: number; shift_percent: number }
  /** Specks on the glass, the same in every frame. */
  | { kind: 'dust'; specks: number }

/** One exposure as it really happens. */
export interface Shot {
  position_mm: number
  dx_px: number
  dy_px: number
  /** The picture moved because the camera was pushed aside, not turned. */
  pushed?: boolean
  /** Factor on the light, whole and by channel. */
  exposure: number
  tint: [number, number, number]
  shake_px: number
  /** How far what stands before the backdrop lies elsewhere, as a part of what it may at the most. */
  stirred: number
  hand: boolean
  /** The faults that struck this frame. */
  faults: Fault['kind'][]
}

/** The shots that a plan turns into when the faults strike. `width_px` is the picture's. */
export function shotsOf(positions_mm: number[], faults: Fault[], width_px: number, random: () => number): Shot[] {
  let shots = positions_mm.map((position_mm): Shot => ({
    position_mm,
    dx_px: 0,
    dy_px: 0,
    exposure: 1,
    tint: [1, 1, 1],
    shake_px: 0,
    stirred: 0,
    hand: false,
    faults: [],
  }))
  const strideAfter = (k: number) => {
    const at = Math.min(positions_mm.length - 2, k)
    return at < 0 ? 0 : positions_mm[at + 1] - positions_mm[at]
  }
  const ofOne = (frame: number) => shots[frame - 1]
  // Faults of single frames first, while frames are counted as planned.
  for (const fault of faults) {
    if (fault.kind === 'sway')
      for (const shot of shots) add(shot, fault.kind, { dx_px: gaussian(random) * fault.shift_px, dy_px: gaussian(random) * fault.shift_px * 0.3 })
    if (fault.kind === 'flicker') for (const shot of shots) add(shot, fault.kind, { exposure: shot.exposure * 2 ** (gaussian(random) * fault.ev) })
    if (!('frame' in fault) || !ofOne(fault.frame)) continue
    const shot = ofOne(fault.frame)
    const later = shots.slice(fault.frame - 1)
    if (fault.kind === 'bump') {
      const shift = (fault.shift_percent / 100) * width_px
      later.forEach((each, k) => move(each, k === 0 ? fault.kind : undefined, shift * 0.8, shift * 0.6))
      if (fault.pushed) for (const each of later) each.pushed = true
    }
    if (fault.kind === 'noFlash') add(shot, fault.kind, { exposure: shot.exposure * 2 ** -fault.stops })
    if (fault.kind === 'shake') add(shot, fault.kind, { shake_px: fault.length_px })
    if (fault.kind === 'stirred') for (const each of later.slice(0, fault.frames)) add(each, fault.kind, { stirred: 1 })
    if (fault.kind === 'whiteBalance') add(shot, fault.kind, { tint: [2 ** fault.red_ev, 1, 2 ** fault.blue_ev] })
    if (fault.kind === 'skippedStep')
      later.forEach((each, k) => add(each, k === 0 ? fault.kind : undefined, { position_mm: each.position_mm + strideAfter(fault.frame - 1 + k) }))
    if (fault.kind === 'repeatedStep')
      later.forEach((each, k) =>
        add(each, k === 0 ? fault.kind : undefined, { position_mm: each.position_mm - strideAfter(Math.max(0, fault.frame - 2 + k)) }),
      )
  }
  const hands = faults.flatMap((fault) => (fault.kind === 'divider' ? [ofOne(fault.frame)] : []))
  for (const fault of faults) {
    if (fault.kind === 'startShort') shots = marked(shots.slice(fault.frames), 0, fault.kind)
    if (fault.kind === 'endShort') shots = marked(shots.slice(0, shots.length - fault.frames), -1, fault.kind)
    if (fault.kind === 'runsOn') {
      const last = shots.at(-1)!
      for (let k = 1; k <= fault.frames; k++)
        shots.push({ ...last, position_mm: last.position_mm + k * strideAfter(positions_mm.length - 1), faults: [fault.kind] })
    }
  }
  for (const before of hands) {
    const at = Math.max(0, shots.indexOf(before))
    shots.splice(at, 0, { ...shots[at], hand: true, faults: ['divider'] })
  }
  return shots
}

function add(shot: Shot, kind: Fault['kind'] | undefined, change: Partial<Shot>): void {
  Object.assign(shot, change)
  if (kind) shot.faults.push(kind)
}

function move(shot: Shot, kind: Fault['kind'] | undefined, dx_px: number, dy_px: number): void {
  add(shot, kind, { dx_px: shot.dx_px + dx_px, dy_px: shot.dy_px + dy_px })
}

function marked(shots: Shot[], place: number, kind: Fault['kind']): Shot[] {
  shots.at(place)?.faults.push(kind)
  return shots
}

/** What happens to the light during one exposure. */
export type Strike = Pick<Shot, 'tint' | 'shake_px' | 'hand'>

/** Specks of dust, in parts of the picture's width and height. */
export type Speck = { x: number; y: number; radius: number }

/**
 * The light of a frame with what happened during its exposure: a smear, a tint, a hand, dust. Changes `light`, which is
 * the part of the `whole` picture that begins at its (x, y).
 */
export function strike(light: Picture, { shake_px, tint, hand }: Strike, dust: Speck[], whole: Rectangle = { x: 0, y: 0, ...sizeOf(light) }): void {
  const { width, height } = light
  light.planes.forEach((plane, channel) => {
    if (shake_px > 0) plane.data.set(smeared(plane.data, width, height, shake_px))
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x
        const [wx, wy] = [x + whole.x, y + whole.y]
        if (hand) plane.data[i] = HAND[channel] * (0.75 + 0.25 * Math.sin((wx / whole.width) * 5 + (wy / whole.height) * 3))
        plane.data[i] *= tint[channel]
        for (const speck of dust) {
          const r = Math.hypot(wx - speck.x * whole.width, wy - speck.y * whole.height) / (speck.radius * whole.width)
          if (r < 1.5) plane.data[i] *= 1 - 0.5 / (1 + Math.exp(8 * (r - 1)))
        }
      }
    }
  })
}

const sizeOf = ({ width, height }: Picture) => ({ width, height })

/** Places for specks, the same for the same stream. */
export function specksOf(count: number, random: () => number): Speck[] {
  return Array.from({ length: count }, () => ({ x: random(), y: random(), radius: 0.004 + 0.008 * random() }))
}

/** A hand close before the lens: out of focus, lit from behind the camera. */
const HAND = [0.42, 0.27, 0.2]

function smeared(data: Float32Array, width: number, height: number, length_px: number): Float32Array {
  const out = new Float32Array(data.length)
  const steps = Math.max(2, Math.ceil(length_px) + 1)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0
      for (let k = 0; k < steps; k++) {
        const t = (k / (steps - 1) - 0.5) * length_px
        const sx = Math.min(width - 1, Math.max(0, Math.round(x + t * 0.8)))
        const sy = Math.min(height - 1, Math.max(0, Math.round(y + t * 0.6)))
        sum += data[sy * width + sx]
      }
      out[y * width + x] = sum / steps
    }
  }
  return out
}

/** Every kind of fault, with what a photographer calls it. */
export const FAULT_WORDS: Record<Fault['kind'], string> = {
  bump: 'bumped tripod',
  sway: 'wind sway',
  noFlash: 'a frame without flash',
  flicker: 'flickering light',
  skippedStep: 'a skipped step',
  repeatedStep: 'a doubled frame',
  shake: 'a shaken frame',
  whiteBalance: 'white balance off in one frame',
  divider: 'a hand before the lens',
  startShort: 'focus starts short',
  endShort: 'battery ends too soon',
  runsOn: 'runs on past the subject',
  stirred: 'a part that stirred',
  dust: 'dust on the glass',
}

/** Faults of these kinds, of usual size, somewhere in a run of `count` frames, but not at its very ends. */
export function usualFaults(kinds: Fault['kind'][], count: number, random: () => number): Fault[] {
  const place = () => Math.min(count, 3 + Math.floor(random() * Math.max(1, count - 4)))
  const some = Math.max(1, Math.round(count / 4))
  return kinds.map((kind): Fault => {
    if (kind === 'bump') return { kind, frame: place(), shift_percent: 2.5 }
    if (kind === 'sway') return { kind, shift_px: 1.5 }
    if (kind === 'noFlash') return { kind, frame: place(), stops: 2.5 }
    if (kind === 'flicker') return { kind, ev: 0.18 }
    if (kind === 'shake') return { kind, frame: place(), length_px: 12 }
    if (kind === 'whiteBalance') return { kind, frame: place(), red_ev: 0.35, blue_ev: -0.4 }
    if (kind === 'stirred') return { kind, frame: place(), frames: some, shift_percent: 0.7 }
    if (kind === 'dust') return { kind, specks: 6 }
    if (kind === 'startShort' || kind === 'endShort' || kind === 'runsOn') return { kind, frames: some }
    return { kind, frame: place() }
  })
}
