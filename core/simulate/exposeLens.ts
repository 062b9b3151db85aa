import { createPicture, type Picture } from '../raster'
import { blur_px, pixelsPer_mm, type CameraSetup, type View } from './camera'
import { addDiscBlurred, type Extent, type Tile } from './disc'
import { EMPTY, type SampledLayer, type SampledScene } from './sampled'

const TILE = 64
const WIDEST_BLUR_px = 120

/**
 * What the lens throws on the sensor, in linear light: every slab of every layer moved to where this view sees it and
 * blurred by its own disc; slabs of one surface add up, surfaces cover one another from back to front, so a near
 * bristle blurs over a sharp ground. `sharp` leaves all blur out: the truth to score fused pictures against.
 */
export function exposeLens(scene: SampledScene, setup: CameraSetup, view: View, sharp = false): Picture {
  const picture = createPicture(setup.width_px, setup.height_px)
  const bundles = bundleSlabs(scene, view, sharp)
  for (let top = 0; top < setup.height_px; top += TILE) {
    for (let left = 0; left < setup.width_px; left += TILE) {
      const tile = exposeTile(scene, bundles, view, setup, left, top)
      store(picture, tile, left, top)
    }
  }
  return picture
}

/** Neighbouring slabs that this view blurs and scales alike. */
interface Bundle {
  radius: number
  /** Samples of the scene per pixel of this view, at this depth. */
  scale: number
}

interface Bundles {
  list: Bundle[]
  /** The bundle of each slab. */
  of: Uint8Array
}

/** Far from focus slabs differ by a small part of their blur; taking them together saves most of the work. */
const ALIKE = 0.08
const ALIKE_px = 0.2

function bundleSlabs(scene: SampledScene, view: View, sharp: boolean): Bundles {
  const of = new Uint8Array(EMPTY + 1).fill(EMPTY)
  const list: Bundle[] = []
  scene.slabDepth.forEach((z, slab) => {
    const radius = sharp ? 0 : Math.min(WIDEST_BLUR_px, blur_px(view, z) / 2)
    const scale = (pixelsPer_mm(scene.view, z) * scene.density) / pixelsPer_mm(view, z)
    const last = list.at(-1)
    const offset_px = last ? Math.abs(scale / last.scale - 1) * view.widest_px : Infinity
    if (!last || Math.abs(radius - last.radius) > Math.max(ALIKE_px, ALIKE * last.radius) || offset_px > Math.max(ALIKE_px, ALIKE * last.radius))
      list.push({ radius, scale })
    of[slab] = list.length - 1
  })
  return { list, of }
}

function exposeTile(scene: SampledScene, bundles: Bundles, view: View, setup: CameraSetup, left: number, top: number): Tile {
  const width = Math.min(TILE, setup.width_px - left)
  const height = Math.min(TILE, setup.height_px - top)
  const result: Tile = { width, height, data: new Float32Array(width * height * 4) }
  const originX = left - (setup.width_px - 1) / 2
  const originY = top - (setup.height_px - 1) / 2
  for (const layer of scene.layers) {
    const sum = exposeLayer(layer, bundles, view, width, height, originX, originY)
    if (sum) cover(result, sum, layer.backdrop)
  }
  return result
}

/** One surface in one tile; undefined where it does not reach. */
function exposeLayer(
  layer: SampledLayer,
  bundles: Bundles,
  view: View,
  width: number,
  height: number,
  originX: number,
  originY: number,
): Tile | undefined {
  const used = bundlesWithin(layer, bundles, view, originX, originY, width, height)
  if (used.size === 0) return undefined
  const sum: Tile = { width, height, data: new Float32Array(width * height * 4) }
  for (const bundle of used) {
    const { radius, scale } = bundles.list[bundle]
    const halo = Math.ceil(radius) + 2
    const source: Tile = { width: width + 2 * halo, height: height + 2 * halo, data: new Float32Array((width + 2 * halo) * (height + 2 * halo) * 4) }
    const filled = gather(layer, bundles.of, bundle, scale, view, originX - halo, originY - halo, source)
    if (!filled) continue
    if (radius < 0.5) addInner(source, sum, halo)
    else addDiscBlurred(source, filled, sum, halo, radius)
  }
  return sum
}

/** The bundles that have samples where their blur may reach into the tile. */
function bundlesWithin(layer: SampledLayer, { list, of }: Bundles, view: View, x: number, y: number, width: number, height: number): Set<number> {
  const widest = list.reduce((most, { radius }) => Math.max(most, radius), 0) + 4
  const scales = [list[0].scale, list.at(-1)!.scale]
  const drift = Math.hypot(view.jitter.dx_px, view.jitter.dy_px) + Math.abs(view.jitter.rotation_rad) * Math.hypot(x, y) + 2
  const range = (from: number, length: number, first: number, count: number) => {
    const ends = scales.flatMap((scale) => [(from - widest - drift) * scale - first, (from + length + widest + drift) * scale - first])
    return [Math.max(0, Math.floor(Math.min(...ends))), Math.min(count - 1, Math.ceil(Math.max(...ends)))]
  }
  const [x0, x1] = range(x, width, layer.left, layer.width)
  const [y0, y1] = range(y, height, layer.top, layer.height)
  const found = new Set<number>()
  // Every second sample finds every bundle worth having.
  for (let row = y0; row <= y1; row += 2)
    for (let i = row * layer.width + x0; i <= row * layer.width + x1; i += 2) if (layer.slab[i] !== EMPTY) found.add(of[layer.slab[i]])
  return found
}

/** Fills `tile` with the samples of one bundle, moved to this view, bilinear; undefined where there are none. */
function gather(
  layer: SampledLayer,
  bundleOf: Uint8Array,
  bundle: number,
  scale: number,
  { jitter }: View,
  x: number,
  y: number,
  tile: Tile,
): Extent | undefined {
  const { width, height, data } = tile
  const { slab, colour } = layer
  const cos = (Math.cos(jitter.rotation_rad) * scale) / jitter.scale
  const sin = (-Math.sin(jitter.rotation_rad) * scale) / jitter.scale
  const filled: Extent = { left: width, right: -1, top: height, bottom: -1 }
  for (let row = 0, out = 0; row < height; row++) {
    const py = y + row - jitter.dy_px
    let qx = cos * (x - jitter.dx_px) - sin * py - layer.left
    let qy = sin * (x - jitter.dx_px) + cos * py - layer.top
    for (let column = 0; column < width; column++, out += 4, qx += cos, qy += sin) {
      const ix = Math.floor(qx)
      const iy = Math.floor(qy)
      if (ix < 0 || iy < 0 || ix >= layer.width - 1 || iy >= layer.height - 1) continue
      const i = iy * layer.width + ix
      const tx = qx - ix
      const ty = qy - iy
      const a = bundleOf[slab[i]] === bundle ? (1 - tx) * (1 - ty) : 0
      const b = bundleOf[slab[i + 1]] === bundle ? tx * (1 - ty) : 0
      const c = bundleOf[slab[i + layer.width]] === bundle ? (1 - tx) * ty : 0
      const d = bundleOf[slab[i + layer.width + 1]] === bundle ? tx * ty : 0
      if (a + b + c + d === 0) continue
      const top = 4 * i
      const bottom = top + 4 * layer.width
      for (let k = 0; k < 4; k++) data[out + k] = a * colour[top + k] + b * colour[top + 4 + k] + c * colour[bottom + k] + d * colour[bottom + 4 + k]
      if (column < filled.left) filled.left = column
      if (column > filled.right) filled.right = column
      if (row < filled.top) filled.top = row
      filled.bottom = row
    }
  }
  return filled.right >= 0 ? filled : undefined
}

function addInner(source: Tile, target: Tile, halo: number): void {
  for (let y = 0; y < target.height; y++) {
    const from = ((y + halo) * source.width + halo) * 4
    const to = y * target.width * 4
    for (let i = 0; i < target.width * 4; i++) target.data[to + i] += source.data[from + i]
  }
}

/** Lays a surface over what is there. Blur radii that change along it leave its sum a little off one; that is evened. */
function cover(below: Tile, surface: Tile, backdrop: boolean): void {
  for (let i = 0; i < below.data.length; i += 4) {
    const alpha = surface.data[i + 3]
    const even = backdrop ? 1 / Math.max(alpha, 1e-3) : 1 / Math.max(alpha, 1)
    const through = backdrop ? 0 : 1 - Math.min(1, alpha)
    for (let c = 0; c < 4; c++) below.data[i + c] = below.data[i + c] * through + surface.data[i + c] * even
  }
}

function store({ width, planes }: Picture, tile: Tile, left: number, top: number): void {
  for (let y = 0; y < tile.height; y++) {
    for (let x = 0; x < tile.width; x++) {
      const from = (y * tile.width + x) * 4
      const to = (top + y) * width + left + x
      for (let c = 0; c < 3; c++) planes[c].data[to] = tile.data[from + c]
    }
  }
}
