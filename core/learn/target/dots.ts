import { blobsOf, runningMean, type Plane } from '../../raster'

/** A dark dot on white, as a frame shows it. */
export interface Dot {
  x: number
  y: number
  /** How much light it takes away altogether, in px of black on white: the same however blurred it is. */
  ink_px: number
}

/** Around a place it is asked how light the paper is: so far, in parts of the picture's width. */
const PAPER_part = 1 / 24
/** What is darker than the paper by this part belongs to a dot. */
const DARKER = 0.22
const LEAST_area_px = 6
/** A dot is no larger than this part of the picture's width, and no longer than it is wide by this. */
const LARGEST_part = 0.03
const LONGEST_ratio = 2.8
/** The box of a dot is filled to this part; a disc fills π/4. */
const LEAST_filled = 0.5
const RIM_part = 0.15

/**
 * The dark round places of a picture in linear light. What is dark is asked against the lightest around, the paper: shading and vignetting
 * do not count.
 */
export function dotsIn(light: Plane): Dot[] {
  const { width, height, data } = light
  const paper = paperOf(light)
  const marked = new Uint8Array(data.length)
  for (let i = 0; i < data.length; i++) marked[i] = Number(data[i] < (1 - DARKER) * paper.data[i])
  return blobsOf(marked, width, height).flatMap(({ left, top, right, bottom, area }) => {
    const [across, down] = [right - left + 1, bottom - top + 1]
    if (area < LEAST_area_px || Math.max(across, down) > LARGEST_part * width) return []
    if (Math.max(across, down) > LONGEST_ratio * Math.min(across, down) || area < LEAST_filled * across * down) return []
    if (left === 0 || top === 0 || right === width - 1 || bottom === height - 1) return []
    // With the soft rim around it, which is lighter than the threshold; not so far that the next dot of the ladder comes in.
    const rim = Math.max(1, Math.round(RIM_part * Math.max(across, down)))
    let [ink, sumX, sumY] = [0, 0, 0]
    for (let y = Math.max(0, top - rim); y <= Math.min(height - 1, bottom + rim); y++)
      for (let x = Math.max(0, left - rim); x <= Math.min(width - 1, right + rim); x++) {
        const dark = Math.max(0, 1 - data[y * width + x] / paper.data[y * width + x] - 0.02)
        ink += dark
        sumX += dark * x
        sumY += dark * y
      }
    return ink > 0 ? [{ x: sumX / ink, y: sumY / ink, ink_px: ink }] : []
  })
}

/** How light the paper is at each place: a mean that dark places count little in. */
function paperOf(light: Plane): Plane {
  const reach = Math.max(2, Math.round(PAPER_part * light.width))
  const once = runningMean(light, reach)
  // What is darker than the mean around it is taken for ink, and stands back.
  const bright = { ...light, data: light.data.map((value, i) => (value > once.data[i] ? value : 0)) }
  const counted = { ...light, data: light.data.map((value, i) => Number(value > once.data[i])) }
  const [sum, count] = [runningMean(bright, reach), runningMean(counted, reach)]
  return { ...light, data: sum.data.map((value, i) => (count.data[i] > 1e-3 ? value / count.data[i] : once.data[i])) }
}
