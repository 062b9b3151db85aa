import { columns, inverse, times } from '../formats'
import { discSums } from '../raster'
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
  const { sum, count, full } = discSums(frame, place, Math.max(1, radius * frame.width), CLIPPED.sample, frame.space.light)
  if (full > CLIPPED.share * count) throw refusal('finish.cardLight')
  if (count === 0 || Math.min(...sum) < DARK * count) throw refusal('finish.cardDark')
  return colourOf(sum, frame.space)
}

/** The colour of a place that becomes grey, however light it is, in px; that of white where nothing can be said, so that nothing changes. */
export function neutralColour(frame: Frame, at: Place, radius_px: number): CardColour {
  const { sum, count } = discSums(frame, at, radius_px, CLIPPED.sample, frame.space.light)
  return count > 0 && Math.min(...sum) > BLACK * count ? colourOf(sum, frame.space) : WHITE_D50
}

/** What red, green and blue of a space are multiplied by, so that the card becomes grey and keeps its luminance. */
export function cardGains(card: CardColour, { primaries }: Space): [red: number, green: number, blue: number] {
  const [red, green, blue] = times(inverse(columns(primaries)), card)
  // A colour that the space does not hold is brought as near to grey as can be.
  const gain = (light: number) => 1 / Math.max(light, 0.02)
  return [gain(red), gain(green), gain(blue)]
}
