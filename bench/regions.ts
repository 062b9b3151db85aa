import sharp from 'sharp'
import { blurred, createPicture, createPlane, fromInterleaved, runningMean, type Picture, type Plane, type Rectangle } from '@/core/raster'
import { componentsOf } from '@/core/moving/components'

/** Errors are not counted so near the border, px. */
const BORDER_px = 12
const TILE_px = 32
/** Windows of 9 px. */
const WINDOW_reach = 4
/** Moments that differ by more, of 0 … 1, show something that moved; parts of fewer places are not told of. */
const MOVED = 0.1
const LEAST_PLACES = 400

export async function readPicture(file: string): Promise<Picture> {
  const { data, info } = await sharp(file).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  return fromInterleaved(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), info.width, info.height)
}

export function cutOut(picture: Picture, { x, y, width, height }: Rectangle): Picture {
  const out = createPicture(width, height)
  picture.planes.forEach(({ data }, c) => {
    for (let row = 0; row < height; row++)
      out.planes[c].data.set(data.subarray((y + row) * picture.width + x, (y + row) * picture.width + x + width), row * width)
  })
  return out
}

/** Each channel times a factor and plus an offset, as near the other picture as can be at the places that count: what moved tells nothing of light. */
export function fitted(picture: Picture, truth: Picture, where: Uint8Array): Picture {
  const planes = picture.planes.map(({ width, height, data }, c) => {
    const other = truth.planes[c].data
    let [n, x, y, xx, xy] = [0, 0, 0, 0, 0]
    for (let i = 0; i < data.length; i++) {
      if (!where[i]) continue
      n++
      x += data[i]
      y += other[i]
      xx += data[i] * data[i]
      xy += data[i] * other[i]
    }
    const factor = (n * xy - x * y) / (n * xx - x * x)
    const offset = (y - factor * x) / n
    return { width, height, data: data.map((value) => factor * value + offset) }
  }) as Picture['planes']
  return { ...picture, planes }
}

/** Mean square of the difference over the channels, at each place. */
export function errorsOf(a: Picture, b: Picture): Plane {
  const out = createPlane(a.width, a.height)
  a.planes.forEach(({ data }, c) => {
    for (let i = 0; i < data.length; i++) out.data[i] += (data[i] - b.planes[c].data[i]) ** 2 / 3
  })
  return out
}

const inDecibels = (error: number) => 10 * Math.log10(1 / Math.max(error, 1e-12))

export function psnr_dB({ data }: Plane, where: Uint8Array): number {
  let [sum, count] = [0, 0]
  where.forEach((is, i) => {
    if (!is) return
    sum += data[i]
    count++
  })
  return inDecibels(sum / Math.max(1, count))
}

/** Of the worst twentieth of the tiles that lie whole in what is counted. */
export function worstTiles_dB({ data }: Plane, where: Uint8Array, { width, height }: Rectangle): number {
  const tiles: number[] = []
  for (let y = 0; y + TILE_px <= height; y += TILE_px)
    for (let x = 0; x + TILE_px <= width; x += TILE_px) {
      let [sum, whole] = [0, true]
      for (let v = y; v < y + TILE_px && whole; v++)
        for (let i = v * width + x; i < v * width + x + TILE_px; i++) {
          whole &&= where[i] === 1
          sum += data[i]
        }
      if (whole) tiles.push(sum / TILE_px ** 2)
    }
  tiles.sort((a, b) => b - a)
  const worst = tiles.slice(0, Math.max(1, Math.floor(tiles.length / 20)))
  return inDecibels(worst.reduce((sum, error) => sum + error, 0) / worst.length)
}

/** Parts in which the true moments differ, and all that stands still, as marks within the crop. */
export function movedRegions(moments: Plane[], crop: Rectangle): { regions: Uint8Array[]; still: Uint8Array } {
  const [{ width, height }] = moments
  const differing = createPlane(width, height)
  for (let i = 0; i < differing.data.length; i++) {
    const values = moments.map(({ data }) => data[i])
    differing.data[i] = Number(Math.max(...values) - Math.min(...values) > MOVED)
  }
  const near = blurred(differing, 2)
  const moved = runningMean({ width, height, data: near.data.map((share) => Number(share > 0.12)) }, 2).data.map((share) => Number(share > 0.02))
  const inCrop = new Float32Array(crop.width * crop.height)
  for (let y = 0; y < crop.height; y++)
    inCrop.set(moved.subarray((y + crop.y) * width + crop.x, (y + crop.y) * width + crop.x + crop.width), y * crop.width)
  const inside = (i: number) => {
    const [x, y] = [i % crop.width, Math.floor(i / crop.width)]
    return x >= BORDER_px && y >= BORDER_px && x < crop.width - BORDER_px && y < crop.height - BORDER_px
  }
  const { group, count } = componentsOf(
    inCrop.map((is) => is - 1),
    crop.width,
    crop.height,
    true,
  )
  const regions = Array.from({ length: count }, () => new Uint8Array(inCrop.length))
  const still = new Uint8Array(inCrop.length)
  group.forEach((part, i) => {
    if (!inside(i)) return
    if (part < 0) still[i] = 1
    else regions[part][i] = 1
  })
  return { regions: regions.filter((region) => region.reduce((sum, is) => sum + is, 0) >= LEAST_PLACES), still }
}

/** For every place the frame that is nearest to the truth around it: what choosing by peeking would give. */
export function oracle(frames: Picture[], truth: Picture): Picture {
  const errors = frames.map((frame) => runningMean(errorsOf(frame, truth), WINDOW_reach).data)
  const out = createPicture(truth.width, truth.height)
  for (let i = 0; i < errors[0].length; i++) {
    const best = errors.reduce((at, error, k) => (error[i] < errors[at][i] ? k : at), 0)
    out.planes.forEach(({ data }, c) => (data[i] = frames[best].planes[c].data[i]))
  }
  return out
}
