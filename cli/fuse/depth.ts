import { fullSize, inMillimetres, type GreyMap } from '@/core/fuse'
import { solidFile } from '@/codec'
import { meshOf, USUAL_rise } from '@/core/relief'
import type { Plane, Rectangle } from '@/core/raster'
import type { Workspace } from '@/core/raster/kernels'
import { refusal } from '@/core/words'
import type { FrameFile } from '@/schemas'
import { readJson } from '../json'
import type { FusedSeries } from './fuseSeries'

/** What 0 and 65535 of a depth picture stand for. */
export interface DepthScale {
  unit: 'mm' | 'frames'
  at0: number
  at65535: number
}

/** Depth at half the size, and its scale. */
export interface FoundDepth {
  map: Plane
  scale: DepthScale
}

/**
 * Where the focus of each frame was, in mm away from the camera, from a JSON object by file name.
 * @throws Refusal where a frame is missing from it or stands out of order.
 */
export async function readPositions(file: string, frames: FrameFile[]): Promise<number[]> {
  const known = (await readJson(file)) as Record<string, unknown>
  const positions = frames.map(({ name }) => {
    const at = known[name]
    if (typeof at !== 'number' || !Number.isFinite(at)) throw refusal('series.noPosition', { file, name })
    return at
  })
  const rises = Math.sign(positions.at(-1)! - positions[0])
  if (positions.some((at, k) => k > 0 && Math.sign(at - positions[k - 1]) !== rises)) throw refusal('series.positionOrder', { file })
  return positions
}

export function depthScale(count: number, positions?: number[]): DepthScale {
  if (!positions) return { unit: 'frames', at0: 0, at65535: Math.max(1, count - 1) }
  return { unit: 'mm', at0: Math.min(...positions), at65535: Math.max(...positions) }
}

/** In mm where positions are known, else in places of the focus order. */
export function depthOf(fused: FusedSeries, count: number, positions?: number[]): FoundDepth {
  const map = fused.depth()
  return { map: positions ? inMillimetres(map, positions) : map, scale: depthScale(count, positions) }
}

export function depthSamples({ map, scale: { at0, at65535 } }: FoundDepth, crop: Rectangle, room: Workspace): GreyMap {
  return fullSize(map, crop, 16, [at0, at65535], room)
}

/** The relief as PLY or OBJ. Sides are in mm where the size of a pixel is known, else in pixels. */
export function reliefFile(file: string, { map, scale }: FoundDepth, fused: FusedSeries, pixel_mm?: number): Promise<string | Uint8Array> {
  const true_mm = scale.unit === 'mm' && pixel_mm !== undefined
  const rise = true_mm ? 1 : (USUAL_rise * fused.crop.width) / Math.abs(scale.at65535 - scale.at0)
  const side = true_mm ? pixel_mm : 1
  const mesh = meshOf({ ...map, times: 2 }, fused, fused.crop, { rise, pixel: () => side })
  const unit = true_mm ? 'x, y and z in mm' : 'x and y in pixels, z not to scale'
  return solidFile(/\.obj$/i.test(file) ? 'obj' : 'ply', mesh, `Nitidus relief, ${unit}`)
}
