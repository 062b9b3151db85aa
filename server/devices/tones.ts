import sharp from 'sharp'
import type { Tones } from '@/schemas'

const STEPS = 64
/** From these values on, a channel of 8 bits counts as clipped. */
const WHITE = 254
const BLACK = 1

/** How the tones of a picture file are spread, from a copy small enough to be quick. */
export async function tonesOf(file: string): Promise<Tones> {
  const { data, info } = await sharp(file)
    .resize(600, 600, { fit: 'inside', kernel: 'nearest', withoutEnlargement: true })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  const histogram = new Array<number>(STEPS).fill(0)
  let [white, black] = [0, 0]
  const pixels = info.width * info.height
  for (let i = 0; i < data.length; i += info.channels) {
    const [r, g, b] = [data[i], data[i + 1], data[i + 2]]
    // Whole thousandths, so that a grey lies in the step of its value.
    const luma = Math.round(1000 * (0.2126 * r + 0.7152 * g + 0.0722 * b)) / 1000
    histogram[Math.floor((luma / 256) * STEPS)]++
    if (Math.max(r, g, b) >= WHITE) white++
    if (Math.max(r, g, b) <= BLACK) black++
  }
  return { histogram, white_percent: (100 * white) / pixels, black_percent: (100 * black) / pixels }
}
