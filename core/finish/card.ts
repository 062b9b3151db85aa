import { columns, inverse, times } from '../formats'
import { refusal } from '../words'
import type { Place } from './recipe'
import type { Space } from './space'

/** The colour of a grey card in the light of a shoot: XYZ adapted to D50, with Y = 1. */
export type CardColour = [x: number, y: number, z: number]

/** A card that is so light in a part of its place has lost colours to white; one so dark has none to speak of. */
const CLIPPED = { sample: 65_200, share: 0.01 }
const DARK = 0.002
/** Nothing can be said of the colour of what is black. */
const BLACK = 1e-5
/** White as profiles have it (ICC.1, the illuminant of the connection space). */
const WHITE_D50: CardColour = [0.9642, 1, 0.8249]

interface Frame {
  /** Interleaved red, green, blue of 16 bits. */
  samples: Uint16Array
  width: number
  height: number
  space: Space
}

/** The sum of the light of a place and of how many pixels, and how many of those are white. @param at in px; middles at whole numbers. */
function lightAt({ samples, width, height, space }: Frame, [x, y]: Place, radius_px: number) {
  const [left, right] = [Math.max(0, Math.ceil(x - radius_px)), Math.min(width - 1, Math.floor(x + radius_px))]
  const sum = [0, 0, 0]
  let [count, clipped] = [0, 0]
  for (let v = Math.max(0, Math.ceil(y - radius_px)); v <= Math.min(height - 1, Math.floor(y + radius_px)); v++)
    for (let u = left; u <= right; u++) {
      if (Math.hypot(u - x, v - y) > radius_px) continue
      const i = 3 * (v * width + u)
      for (let c = 0; c < 3; c++) sum[c] += space.light[samples[i + c]]
      if (Math.max(samples[i], samples[i + 1], samples[i + 2]) >= CLIPPED.sample) clipped++
      count++
    }
  return { sum, count, clipped }
}

function colourOf(sum: number[], { primaries }: Space): CardColour {
  const [X, Y, Z] = times(columns(primaries), sum)
  return [X / Y, 1, Z / Y]
}

/**
 * The colour of a card that a frame shows, of a place of it.
 * @param at in parts of the frame's width and height; `radius` in parts of its width.
 * @throws Refusal where the place is too light or too dark to tell its colour.
 */
export function cardColour(frame: Frame, at: Place, radius: number): CardColour {
  const place: Place = [at[0] * frame.width - 0.5, at[1] * frame.height - 0.5]
  const { sum, count, clipped } = lightAt(frame, place, Math.max(1, radius * frame.width))
  if (clipped > CLIPPED.share * count) throw refusal('finish.cardLight')
  if (count === 0 || Math.min(...sum) < DARK * count) throw refusal('finish.cardDark')
  return colourOf(sum, frame.space)
}

/** The colour of a place that becomes grey, however light it is, in px; that of white where nothing can be said, so that nothing changes. */
export function neutralColour(frame: Frame, at: Place, radius_px: number): CardColour {
  const { sum, count } = lightAt(frame, at, radius_px)
  return count > 0 && Math.min(...sum) > BLACK * count ? colourOf(sum, frame.space) : WHITE_D50
}

/** What red, green and blue of a space are multiplied by, so that the card becomes grey and keeps its luminance. */
export function cardGains(card: CardColour, { primaries }: Space): [red: number, green: number, blue: number] {
  const [red, green, blue] = times(inverse(columns(primaries)), card)
  // A colour that the space does not hold is brought as near to grey as can be.
  const gain = (light: number) => 1 / Math.max(light, 0.02)
  return [gain(red), gain(green), gain(blue)]
}
