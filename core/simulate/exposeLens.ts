import { createPicture, meeting, type Picture, type Rectangle } from '../raster'
import { WIDEST, Workspace, type Kernels } from '../raster/kernels'
import type { CameraSetup, View } from './camera'
import { kernelsOfThread } from './kernelsOfThread'
import { Levels } from './levels'
import { placing, radiusAt, scaleAt, type Placing } from './placing'
import type { SampledLayer, SampledScene } from './sampledScene'

export interface ExposeOptions {
  /** Leaves all blur out: the truth to score fused pictures against. */
  sharp?: boolean
  /** The part of the picture to draw; all of it where absent. */
  window?: Rectangle
  /** How far wind has carried a layer, by its place, in px. */
  drift?: (layer: number) => [number, number]
  /** What computes; the thread's own where absent. */
  kernels?: Kernels
}

/**
 * What the lens throws on the sensor, in linear light: every surface is moved to where this view sees it, each of its
 * points is spread over its own disc, and surfaces cover one another from back to front, so a near bristle blurs over a
 * sharp ground.
 */
export function exposeLens(scene: SampledScene, setup: CameraSetup, view: View, options: ExposeOptions = {}): Picture {
  const { sharp = false, window, drift, kernels = kernelsOfThread() } = options
  const frame = window ?? { x: 0, y: 0, width: setup.width_px, height: setup.height_px }
  const space = new Workspace(kernels, 0)
  const levels = new Levels(space, frame, REACH_px)
  const samples = Math.max(...scene.layers.map(({ inverse }) => inverse.length))
  const room = { colour: space.bytes(samples * 16), inverse: space.bytes(samples * 4), columns: space.bytes((frame.height + 2 * REACH_px) * 8) }
  scene.layers.forEach((layer, k) => exposeLayer(layer, { scene, setup, view, sharp, frame, levels, room }, drift?.(k) ?? [0, 0]))
  const picture = createPicture(frame.width, frame.height)
  const light = levels.picture()
  picture.planes.forEach(({ data }, c) => {
    for (let i = 0; i < data.length; i++) data[i] = light[4 * i + c]
  })
  return picture
}

/** Light comes from no farther outside the picture. */
const REACH_px = WIDEST + 2

/** What a picture is exposed with, and where its layers are put for the kernels, one after the other. */
interface Exposure {
  scene: SampledScene
  setup: CameraSetup
  view: View
  sharp: boolean
  frame: Rectangle
  levels: Levels
  room: { colour: number; inverse: number; columns: number }
}

/** Lays one surface over what is there. */
function exposeLayer(layer: SampledLayer, exposure: Exposure, drift: [number, number]): void {
  const { scene, setup, view, sharp, frame, levels } = exposure
  const place = placing(scene, setup, view, drift)
  const [far, near] = layer.inverseRange
  const widest = sharp ? 0 : Math.max(radiusAt(place, far), radiusAt(place, near))
  const seen = extentOf(layer, place, setup, view, drift)
  const source = meeting(seen, grow(frame, Math.ceil(widest) + 1))
  if (source.width === 0 || source.height === 0) return
  levels.begin()
  project(layer, place, source, exposure)
  levels.cover(layer.backdrop)
}

/** Where a layer may be seen in this view, generously. */
function extentOf(layer: SampledLayer, place: Placing, setup: CameraSetup, { jitter }: View, drift: [number, number]): Rectangle {
  const edges = (first: number, count: number, aside: number) =>
    [first, first + count].flatMap((edge) => layer.inverseRange.map((inverse) => (edge - aside * inverse) / scaleAt(place, inverse)))
  const xs = edges(layer.left, layer.width, place.aside[0])
  const ys = edges(layer.top, layer.height, place.aside[1])
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

/** Reads the layer at every pixel of `source`, bilinear, and spreads its light. */
function project(layer: SampledLayer, place: Placing, source: Rectangle, { sharp, levels, room }: Exposure): void {
  const { width, height, left, top, colour, inverse, inverseRange } = layer
  const { kernels } = levels.space
  new Float32Array(kernels.buffer(), room.colour, colour.length).set(colour)
  new Float32Array(kernels.buffer(), room.inverse, inverse.length).set(inverse)
  const columns = new Int32Array(kernels.buffer(), room.columns, 2 * source.height)
  for (let row = 0; row < source.height; row++) columns.set(columnsOf(layer, place, source, source.y + row), 2 * row)
  const [start, across, down] = [place.origin(source.x, source.y), place.stepX, place.stepY]
  const middle = (inverseRange[0] + inverseRange[1]) / 2
  const surface = [room.colour, room.inverse, width, height, left, top, room.columns]
  const view = [place.ratio, place.nearer, ...place.aside, ...start, ...across, ...down, sharp ? 0 : place.blur, place.focus, middle]
  kernels.run('projectLight', [...surface, ...view, source.x, source.y, levels.discs, levels.table], source.height)
}

/** First column of a picture row in which the layer may stop light, and the one behind the last. */
function columnsOf({ left, top, height, spans, inverseRange }: SampledLayer, place: Placing, source: Rectangle, y: number): [number, number] {
  const ends = [source.x, source.x + source.width]
  const depths = inverseRange.map((inverse) => ({ scale: scaleAt(place, inverse), right: place.aside[0] * inverse, down: place.aside[1] * inverse }))
  const rows = ends.flatMap((x) => depths.map(({ scale, down }) => place.origin(x, y)[1] * scale + down - top))
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
  const columns = (sample: number) => depths.map(({ scale, right }) => source.x + ((sample + left - right) / scale - start) / place.stepX[0])
  return [Math.max(ends[0], Math.floor(Math.min(...columns(first - 1))) - 1), Math.min(ends[1], Math.ceil(Math.max(...columns(behind))) + 2)]
}

function grow({ x, y, width, height }: Rectangle, by: number): Rectangle {
  return { x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by }
}
