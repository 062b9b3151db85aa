import { createHash } from 'node:crypto'
import { colourText, readTakenWith, verifyPicture, type PictureFacts } from '@/codec'
import { isRaw } from '@/core/batch'
import { profileName, type TakenWith } from '@/core/formats'
import { refusal } from '@/core/words'
import type { Frame } from '@/database'
import { storedColour, type RunDevelopment, type StoredColour } from '@/schemas'
import { developedColour, type RawFrames } from './rawFrames'

/** What a file turned out to be when it came. */
export interface ReceivedFacts {
  width: number
  height: number
  bits: number
  colour: StoredColour
  taken: TakenWith | null
  /** Of a raw file: how its run is developed, if it is the first. */
  development?: RunDevelopment
}

function storedColourOf({ colour: { model, icc } }: Pick<PictureFacts, 'colour'>): StoredColour {
  return { model, profile: icc ? profileName(icc) : null, sha256: icc ? createHash('sha256').update(icc).digest('hex') : null }
}

/** @throws Refusal where a frame's name is taken, or its size or colours are not those of the run. */
export function checkFits(
  row: Pick<Frame, 'name' | 'width' | 'height' | 'colour_json'>,
  colour: StoredColour,
  others: Frame[],
  captures: { name: string }[] = [],
): void {
  const { name, width, height } = row
  if ([...others, ...captures].some((other) => other.name === name)) throw refusal('frame.nameTaken', { name })
  const other = others.find((frame) => frame.width !== width || frame.height !== height)
  if (other) throw refusal('frame.size', { name, size: `${width} × ${height}`, other: other.name, otherSize: `${other.width} × ${other.height}` })
  const strange = others.find(({ colour_json }) => colour_json !== null && colour_json !== row.colour_json)
  if (strange) {
    if (isRaw(name) !== isRaw(strange.name))
      throw refusal('raw.mixed', isRaw(name) ? { raw: name, other: strange.name } : { raw: strange.name, other: name })
    const otherProfile = colourText(storedColour(strange.colour_json!))
    throw refusal('frame.profile', { name, profile: colourText(colour), other: strange.name, otherProfile })
  }
}

/** What a received file is: read through, so that nothing is missing from it. @throws Refusal */
export async function factsOf(raw: RawFrames, part: string, name: string, uid: string): Promise<ReceivedFacts> {
  if (isRaw(name)) {
    const { width, height, taken, development } = await raw.look(part, name, uid)
    return { width, height, bits: 16, colour: developedColour(), taken, development: { ...development, like: name } }
  }
  const { width, height, bits, format, exif, ...facts } = await verifyPicture(part, name)
  return { width, height, bits, colour: storedColourOf(facts), taken: await readTakenWith(format === 'tiff' ? part : exif) }
}
