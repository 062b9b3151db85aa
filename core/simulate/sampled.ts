import { movesCamera } from '../movers'
import type { Rectangle } from '../raster'
import { pixelsPer_mm, type CameraSetup, type View } from './camera'
import { Hidden, marginOf } from './hidden'
import type { Extent, SampledLayer, SampledScene } from './sampledScene'
import type { Layer, Scene, Sight } from './scene'

/** Samples per pixel, along one side: enough that resampling costs no sharpness; large pictures make do with fewer. */
const DENSITY = { usual: 1.5, large: 1 }
const LARGE_px = 1600

/** Room around the picture for views that see more of the scene, as part of it. */
const MARGIN = 0.14

/** Blur and movement by accident bring in light from so far outside a window, px. */
const AROUND_px = 130

export interface SamplingOptions {
  /** Samples per pixel, along one side. */
  density?: number
  /** The only part of the picture, in px, that will be drawn; all of it where absent. */
  window?: Rectangle
  /** All pictures are taken from one place, so that what nearer surfaces hide is left out; with a ring where absent. */
  fromOnePlace?: boolean
}

/** Samples every layer once; all frames of a series are then made from the samples. */
export function sampleScene(scene: Scene, setup: CameraSetup, view: View, options?: SamplingOptions): SampledScene {
  return finish(sampling(scene, setup, view, options))
}

/** The same bit by bit, for who has other things to do meanwhile: a large picture takes many seconds. */
export function* sampling(scene: Scene, setup: CameraSetup, view: View, options: SamplingOptions = {}): Sampling<SampledScene> {
  const { density = densityFor(setup), window, fromOnePlace = !movesCamera(setup.mover) } = options
  const extent = extentOf(setup, window, density)
  const layers: SampledLayer[] = []
  const hidden = fromOnePlace ? new Hidden(extent) : undefined
  const nearest_mm = Math.min(...scene.layers.map(({ bounds }) => bounds.near)) - view.pupilZ
  const sway_px = Math.max(...scene.layers.map((layer) => swayOf(layer, view)))
  // From the nearest: what it hides of the others is left out.
  for (const layer of scene.layers.toReversed()) {
    const sampled = yield* samplingLayer(layer, extent, view, density, hidden)
    if (!sampled) continue
    layers.push(sampled)
    hidden?.add(sampled, marginOf(setup, view, nearest_mm, sway_px, density))
  }
  return { layers: layers.reverse(), view, density, extent }
}

/** Work that is done a few rows at a time. */
export type Sampling<Result> = Generator<undefined, Result, undefined>

/** Does what is left of it. */
export function finish<Result>(work: Sampling<Result>): Result {
  for (;;) {
    const { done, value } = work.next()
    if (done) return value
  }
}

function densityFor({ width_px }: CameraSetup): number {
  return width_px > LARGE_px ? DENSITY.large : DENSITY.usual
}

function extentOf({ width_px, height_px }: CameraSetup, window: Rectangle | undefined, density: number): Extent {
  const halfWidth = (width_px / 2) * (1 + MARGIN) * density
  const halfHeight = (height_px / 2) * (1 + MARGIN) * density
  if (!window) return { left: -halfWidth, right: halfWidth, top: -halfHeight, bottom: halfHeight }
  const edge = (px: number, size_px: number, sign: number) =>
    (px - size_px / 2) * density * (1 + MARGIN * Math.sign(px - size_px / 2) * sign) + sign * AROUND_px * density
  return {
    left: Math.max(-halfWidth, edge(window.x, width_px, -1)),
    right: Math.min(halfWidth, edge(window.x + window.width, width_px, 1)),
    top: Math.max(-halfHeight, edge(window.y, height_px, -1)),
    bottom: Math.min(halfHeight, edge(window.y + window.height, height_px, 1)),
  }
}

/** The scene at another moment: what moves by itself is sampled again, the rest is shared. */
export function sampleMoment(sampled: SampledScene, scene: Scene, moment: number): SampledScene {
  if (!sampled.layers.some(({ moving }) => moving)) return sampled
  const moved = scene.layers.flatMap((layer) =>
    layer.at ? (finish(samplingLayer(layer.at(moment), sampled.extent, sampled.view, sampled.density)) ?? []) : [],
  )
  let next = 0
  return { ...sampled, layers: sampled.layers.map((layer) => (layer.moving ? { ...moved[next++], moving: true } : layer)) }
}

/** So many samples are taken at a time. */
const AT_A_TIME = 8192
/** Where a ray meets a layer is known well enough when another look would move it by less, in samples. */
const SETTLED = 0.05

function* samplingLayer(layer: Layer, extent: Extent, view: View, density: number, hidden?: Hidden): Sampling<SampledLayer | undefined> {
  const { bounds, backdrop } = layer
  const scales = [bounds.near, bounds.far].map((z) => pixelsPer_mm(view, z) * density)
  const least = (edge: number, limit: number) => Math.floor(backdrop ? limit : Math.max(limit, Math.min(...scales.map((s) => edge * s)) - 2))
  const most = (edge: number, limit: number) => Math.ceil(backdrop ? limit : Math.min(limit, Math.max(...scales.map((s) => edge * s)) + 2))
  const left = least(bounds.left, extent.left)
  const right = most(bounds.right, extent.right)
  const top = least(bounds.top, extent.top)
  const bottom = most(bounds.bottom, extent.bottom)
  if (right <= left || bottom <= top) return undefined
  const [width, height] = [right - left, bottom - top]
  const sampled: SampledLayer = {
    backdrop,
    width,
    height,
    left,
    top,
    colour: new Float32Array(width * height * 4),
    inverse: new Float32Array(width * height),
    inverseRange: [Infinity, -Infinity],
    spans: new Int32Array(height * 2),
    sway_px: swayOf(layer, view),
    moving: layer.at !== undefined,
  }
  const rows = Math.max(1, Math.floor(AT_A_TIME / width))
  let z = (bounds.near + bounds.far) / 2
  for (let row = 0; row < height; row++) {
    if (row % rows === rows - 1) yield
    z = sampleRow(sampled, layer, row, view, density, z, hidden)
  }
  return sampled
}

/** Blur is read from so far beside a surface, in samples. */
const BESIDE = 4

/** The columns of row `v` that a layer may lie in, and those beside them: the first, and the one behind the last. */
function columnsOf({ width, left }: SampledLayer, { bounds, rangeAt }: Layer, v: number, scaleAt: (z: number) => number): [number, number] {
  if (!rangeAt) return [0, width]
  const scales = [scaleAt(bounds.near), scaleAt(bounds.far)]
  const heights = [v - BESIDE, v + BESIDE].flatMap((edge) => scales.map((s) => edge / s))
  const range = rangeAt(Math.min(...heights), Math.max(...heights))
  if (!range) return [0, 0]
  const columns = [range.left, range.right].flatMap((x) => scales.map((s) => x * s - left))
  return [Math.max(0, Math.floor(Math.min(...columns)) - BESIDE), Math.min(width, Math.ceil(Math.max(...columns)) + BESIDE + 1)]
}

const swayOf = ({ sway_mm = 0, bounds }: Layer, view: View) => sway_mm * pixelsPer_mm(view, (bounds.near + bounds.far) / 2)

/** Samples one row, beginning with a guess of its depth; answers the depth at its end. */
function sampleRow(sampled: SampledLayer, layer: Layer, row: number, view: View, density: number, guess: number, hidden?: Hidden): number {
  const { width, left, top, colour, inverse, inverseRange, spans } = sampled
  const scaleAt = (z: number) => pixelsPer_mm(view, z) * density
  const sight: Sight = { z: 0, red: 0, green: 0, blue: 0, alpha: 0 }
  const v = top + row
  const [from, to] = columnsOf(sampled, layer, v, scaleAt)
  let first = width
  let behind = 0
  let z = guess
  let scale = scaleAt(z)
  for (let column = from, i = row * width + from; column < to; column++, i++) {
    const u = left + column
    if (hidden?.at(u, v)) {
      // As beside it: a surface without holes covers what is behind it whatever rounding lets through in front.
      const beside = column > from ? i - 1 : row > 0 ? i - width : i
      inverse[i] = 1 / (z - view.pupilZ)
      colour.copyWithin(4 * i, 4 * beside, 4 * beside + 4)
      if (colour[4 * i + 3] > 0) {
        if (first === width) first = column
        behind = column + 1
      }
      continue
    }
    // The ray meets the layer where x = ray · depth; at most two rounds from the neighbour's depth settle it.
    for (let round = column === from ? -2 : 0; round < 2; round++) {
      const before = scale
      z = layer.depthAt(u / scale, v / scale)
      scale = scaleAt(z)
      if (Math.abs(scale / before - 1) * (Math.abs(u) + Math.abs(v)) < SETTLED) break
    }
    sight.alpha = 0
    if (layer.see(u / scale, v / scale, 1 / scale, sight)) {
      colour[4 * i] = sight.red * sight.alpha
      colour[4 * i + 1] = sight.green * sight.alpha
      colour[4 * i + 2] = sight.blue * sight.alpha
      colour[4 * i + 3] = sight.alpha
      if (first === width) first = column
      behind = column + 1
    } else sight.z = z
    const here = 1 / (sight.z - view.pupilZ)
    inverse[i] = here
    if (here < inverseRange[0]) inverseRange[0] = here
    if (here > inverseRange[1]) inverseRange[1] = here
  }
  spans[2 * row] = first
  spans[2 * row + 1] = behind
  return z
}
