import { tmpdir } from 'node:os'
import { convertSamples } from './convert'
import { readFacts, readSamples, to16 } from './readPicture'

/** Interleaved RGB of 8 bits, in sRGB. */
export interface ScreenPicture {
  width: number
  height: number
  samples: Uint8Array
}

/** A picture as a screen shows it, at most `mostWidth_px` wide. */
export async function readForScreen(file: string, mostWidth_px: number): Promise<ScreenPicture> {
  const { colour } = await readFacts(file)
  return forScreen(await readSamples(file, mostWidth_px), colour.samplesIcc)
}

/** Samples of a space as a screen shows them. @throws Refusal where their profile does not serve. */
export async function forScreen(
  { samples, width, height }: { samples: Uint8Array | Uint16Array; width: number; height: number },
  icc: Buffer | undefined,
): Promise<ScreenPicture> {
  if (!icc && samples instanceof Uint8Array) return { width, height, samples }
  const wide = to16(samples)
  const converted = icc ? await convertSamples(wide, { width, height }, icc, 'srgb', tmpdir()) : wide
  return { width, height, samples: Uint8Array.from(converted, (value) => Math.round(value / 257)) }
}
