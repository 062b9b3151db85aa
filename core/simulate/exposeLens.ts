import { createPicture, type Picture, type Rectangle } from '../raster'
import type { CameraSetup, View } from './camera'
import { Levels } from './levels'
import { placing, radiusAt, scaleAt, WIDEST_px, type Placing } from './placing'
import type { SampledLayer, SampledScene } from './sampled'
import type { LightGrid } from './spread'

export interface ExposeOptions {
  /** Leaves all blur out: the truth to score fused pictures against. */
  sharp?: boolean
  /** The part of the picture to draw; all of it where absent. */
  window?: Rectangle
  /** How far wind has carried a layer, by its place, in px. */
  drift?: (layer: number) => [number, number]
}

/**
 * What the lens throws on the sensor, in linear light: every surface is moved to where this view sees it, each of its
 * points is spread over its own disc, and surfaces cover one another from back to front, so a near bristle blurs over a
 * sharp ground.
 */
export function exposeLens(scene: SampledScene, setup: CameraSetup, view: View, { sharp, window, drift }: ExposeOptions = {}): Picture {
  const frame = window ?? { x: 0, y: 0, width: setup.width_px, height: setup.height_px }
  const below = new Float32Array(frame.width * frame.height * 4)
  const levels = new Levels(frame, WIDEST_px + 2)
  scene.layers.forEach((layer, k) => exposeLayer(below, frame, levels, layer, scene, setup, view, sharp ?? false, drift?.(k) ?? [0, 0]))
  const picture = createPicture(frame.width, frame.height)
  picture.planes.forEach(({ data }, c) => {
    for (let i = 0; i < data.length; i++) data[i] = below[4 * i + c]
  })
  return picture
}

/** Lays one surface over what is there. */
function exposeLayer(
  below: Float32Array,
  frame: Rectangle,
  levels: Levels,
  layer: SampledLayer,
  scene: SampledScene,
  setup: CameraSetup,
  view: View,
  sharp: boolean,
  drift: [number, number],
): void {
  const place = placing(scene, setup, view, drift)
  const [far, near] = layer.inverseRange
  const widest = sharp ? 0 : Math.max(radiusAt(place, far), radiusAt(place, near))
  const seen = extentOf(layer, place, setup, view, drift)
  const source = intersect(seen, grow(frame, Math.ceil(widest) + 1))
  if (!source) return
  project(layer, place, source, sharp, levels)
  cover(below, levels.light(), layer.backdrop)
  levels.clear()
}

/** Where a layer may be seen in this view, generously. */
function extentOf(layer: SampledLayer, place: Placing, setup: CameraSetup, { jitter }: View, drift: [number, number]): Rectangle {
  const [a, b] = layer.inverseRange.map((inverse) => scaleAt(place, inverse))
  const edges = (first: number, count: number) => [first / a, first / b, (first + count) / a, (first + count) / b]
  const xs = edges(layer.left, layer.width)
  const ys = edges(layer.top, layer.height)
  const away = Math.hypot(jitter.dx_px, jitter.dy_px) + Math.hypot(...drift) + 2
  const turned = Math.abs(jitter.rotation_rad) * Math.max(...xs.map(Math.abs), ...ys.map(Math.abs))
  const margin = away + turned + Math.abs(jitter.scale - 1) * setup.width_px
  const x = Math.floor(Math.min(...xs) - margin + setup.width_px / 2)
  const y = Math.floor(Math.min(...ys) - margin + setup.height_px / 2)
  return {
    x,
    y,
    width: Math.ceil(Math.max(...xs) + margin + setup.width_px / 2) - x + 1,
    height: Math.ceil(Math.max(...ys) + margin + setup.height_px / 2) - y + 1,
  }
}

/** A step of depth between neighbours that moves where a ray meets the surface by less than this, in samples, is let be. */
const CLOSE_ENOUGH = 0.1

/** Reads the layer at every pixel of `source`, bilinear, and hands its light on to be spread. */
function project(layer: SampledLayer, place: Placing, source: Rectangle, sharp: boolean, levels: Levels): void {
  const { width, height, left, top, colour, inverse } = layer
  const { ratio, nearer } = place
  const [stepU, stepV] = place.stepX
  const parallax = Math.abs(ratio * nearer)
  const light = new Float32Array(4)
  let depth = (layer.inverseRange[0] + layer.inverseRange[1]) / 2
  for (let y = source.y; y < source.y + source.height; y++) {
    const [first, behind] = columnsOf(layer, place, source, y)
    const [startU, startV] = place.origin(first, y)
    for (let x = first, u = startU, v = startV; x < behind; x++, u += stepU, v += stepV) {
      // Where a ray meets the surface depends on the surface's depth there; the neighbour's is nearly right.
      let again = true
      let i = -1
      let tx = 0
      let ty = 0
      for (let round = 0; round < 2 && again; round++) {
        const s = ratio * (1 + nearer * depth)
        const sx = u * s - left
        const sy = v * s - top
        if (!(sx >= 0 && sy >= 0 && sx < width - 1 && sy < height - 1)) {
          i = -1
          break
        }
        const ix = sx | 0
        const iy = sy | 0
        i = iy * width + ix
        tx = sx - ix
        ty = sy - iy
        const above = inverse[i] + tx * (inverse[i + 1] - inverse[i])
        const below = inverse[i + width] + tx * (inverse[i + width + 1] - inverse[i + width])
        const here = above + ty * (below - above)
        again = Math.abs(here - depth) * parallax * (Math.abs(u) + Math.abs(v)) > CLOSE_ENOUGH
        depth = here
      }
      if (i < 0) continue
      const a = 4 * i
      const c = a + 4 * width
      const wa = (1 - tx) * (1 - ty)
      const wb = tx * (1 - ty)
      const wc = (1 - tx) * ty
      const wd = tx * ty
      const alpha = wa * colour[a + 3] + wb * colour[a + 7] + wc * colour[c + 3] + wd * colour[c + 7]
      if (alpha === 0) continue
      light[0] = wa * colour[a] + wb * colour[a + 4] + wc * colour[c] + wd * colour[c + 4]
      light[1] = wa * colour[a + 1] + wb * colour[a + 5] + wc * colour[c + 1] + wd * colour[c + 5]
      light[2] = wa * colour[a + 2] + wb * colour[a + 6] + wc * colour[c + 2] + wd * colour[c + 6]
      light[3] = alpha
      levels.add(x, y, sharp ? 0 : radiusAt(place, depth), light)
    }
  }
}

/** First column of a picture row in which the layer may stop light, and the one behind the last. */
function columnsOf({ left, top, height, spans, inverseRange }: SampledLayer, place: Placing, source: Rectangle, y: number): [number, number] {
  const ends = [source.x, source.x + source.width]
  const scales = inverseRange.map((inverse) => scaleAt(place, inverse))
  const rows = ends.flatMap((x) => scales.map((s) => place.origin(x, y)[1] * s - top))
  const from = Math.max(0, Math.floor(Math.min(...rows)) - 1)
  const to = Math.min(height - 1, Math.ceil(Math.max(...rows)) + 1)
  let first = Infinity
  let behind = -Infinity
  for (let row = from; row <= to; row++) {
    if (spans[2 * row + 1] === 0) continue
    first = Math.min(first, spans[2 * row])
    behind = Math.max(behind, spans[2 * row + 1])
  }
  if (behind < first) return [0, 0]
  const [start] = place.origin(source.x, y)
  const column = (sample: number, s: number) => source.x + ((sample + left) / s - start) / place.stepX[0]
  return [
    Math.max(ends[0], Math.floor(Math.min(...scales.map((s) => column(first - 1, s)))) - 1),
    Math.min(ends[1], Math.ceil(Math.max(...scales.map((s) => column(behind, s)))) + 2),
  ]
}

/** Lays a surface over what is there. Blur radii that change along it leave its sum a little off one; that is evened. */
function cover(below: Float32Array, { width, height, ends, touched }: LightGrid, backdrop: boolean): void {
  for (let y = 0; y < height; y++) {
    const first = touched[2 * y]
    let i = (y * width + first) * 4
    let s = (y * (width + 2) + first) * 4
    for (let x = first; x < touched[2 * y + 1]; x++, i += 4, s += 4) {
      const alpha = ends[s + 3]
      if (alpha <= 1e-6 && !backdrop) continue
      const even = backdrop ? 1 / Math.max(alpha, 1e-3) : 1 / Math.max(alpha, 1)
      const through = backdrop ? 0 : 1 - Math.min(1, alpha)
      below[i] = below[i] * through + ends[s] * even
      below[i + 1] = below[i + 1] * through + ends[s + 1] * even
      below[i + 2] = below[i + 2] * through + ends[s + 2] * even
      below[i + 3] = below[i + 3] * through + ends[s + 3] * even
    }
  }
}

function grow({ x, y, width, height }: Rectangle, by: number): Rectangle {
  return { x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by }
}

function intersect(a: Rectangle, b: Rectangle): Rectangle | undefined {
  const x = Math.max(a.x, b.x)
  const y = Math.max(a.y, b.y)
  const width = Math.min(a.x + a.width, b.x + b.width) - x
  const height = Math.min(a.y + a.height, b.y + b.height) - y
  return width > 0 && height > 0 ? { x, y, width, height } : undefined
}
