import { readFacts, readSamples, to16 } from '@/codec'
import { cardColour, spaceOf, type CardColour, type Place } from '@/core/finish'

/** Frames are read at this width: a card is even, and fills more than a few pixels of it. */
const READ_px = 1600
/** Of a frame's width; the ring that the screen shows. */
const RADIUS = 0.012

/** The colour of the grey card that a frame shows at a place, in parts of its width and height. @throws Refusal where it cannot be told. */
export async function cardIn(file: string, at: Place): Promise<CardColour> {
  const { colour } = await readFacts(file)
  const { samples, ...size } = await readSamples(file, READ_px)
  return cardColour({ samples: to16(samples), ...size, space: spaceOf(colour.samplesIcc) }, at, RADIUS)
}
