import { columns, inverse, times } from '../formats'
import { refusal } from '../words'
import type { Place } from './recipe'
import type { Space } from './space'

/** The colour of a grey card in the light of a shoot: XYZ adapted to D50, with Y = 1. */
export type CardColour = [x: number, y: number, z: number]

/** A card that is so light in a part of its place has lost colours to white; one so dark has none to speak of. */
const CLIPPED = { sample: 65_200, share: 0.01 }
const DARK = 0.002

interface Frame {
  /** Interleaved red, green, blue of 16 bits. */
  samples: Uint16Array
  width: number
  height: number
  space: Space
}

/**
 * The colour of a card that a frame shows, of a place of it.
 * @param at in parts of the frame's width and height; `radius` in parts of its width.
 * @throws Refusal where the place is too light or too dark to tell its colour.
 */
export function cardColour({ samples, width, height, space }: Frame, at: Place, radius: number): CardColour {
  const [x, y, r] = [at[0] * width, at[1] * height, Math.max(1, radius * width)]
  const [left, right] = [Math.max(0, Math.floor(x - r)), Math.min(width - 1, Math.ceil(x + r))]
  const sum = [0, 0, 0]
  let [count, clipped] = [0, 0]
  for (let v = Math.max(0, Math.floor(y - r)); v <= Math.min(height - 1, Math.ceil(y + r)); v++)
    for (let u = left; u <= right; u++) {
      if (Math.hypot(u + 0.5 - x, v + 0.5 - y) > r) continue
      const i = 3 * (v * width + u)
      for (let c = 0; c < 3; c++) sum[c] += space.light[samples[i + c]]
      if (Math.max(samples[i], samples[i + 1], samples[i + 2]) >= CLIPPED.sample) clipped++
      count++
    }
  if (clipped > CLIPPED.share * count) throw refusal('finish.cardLight')
  if (count === 0 || Math.min(...sum) < DARK * count) throw refusal('finish.cardDark')
  const [X, Y, Z] = times(columns(space.primaries), sum)
  return [X / Y, 1, Z / Y]
}

/** What red, green and blue of a space are multiplied by, so that the card becomes grey and keeps its luminance. */
export function cardGains(card: CardColour, { primaries }: Space): [red: number, green: number, blue: number] {
  const [red, green, blue] = times(inverse(columns(primaries)), card)
  // A colour that the space does not hold is brought as near to grey as can be.
  const gain = (light: number) => 1 / Math.max(light, 0.02)
  return [gain(red), gain(green), gain(blue)]
}
