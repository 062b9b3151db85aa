import { randomUUID } from 'node:crypto'
import { rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { matrixProfile, P3_PRIMARIES, SRGB_CURVE, SRGB_PROFILE, WIDE_PRIMARIES } from '@/core/formats'
import { refusal } from '@/core/words'
import { writePicture } from './writePicture'

/** Spaces that pictures are converted to; the wide one holds nearly every colour of real surfaces (ITU-R BT.2020's primaries). */
const SPACES = {
  srgb: SRGB_PROFILE,
  p3: matrixProfile('P3', P3_PRIMARIES, SRGB_CURVE),
  wide: matrixProfile('Wide', WIDE_PRIMARIES, SRGB_CURVE),
}

/** Profile of a space that pictures can be converted to. */
export const profileOf = (space: keyof typeof SPACES): Buffer => Buffer.from(SPACES[space])

/**
 * Interleaved 16-bit samples in another space, converted by the colour library, relative to white; where nothing is said of their colours
 * they are sRGB. `scratch` is a folder to work in. @throws Refusal where their profile does not serve.
 */
export async function convertSamples(
  samples: Uint16Array,
  { width, height }: { width: number; height: number },
  icc: Buffer | undefined,
  space: keyof typeof SPACES,
  scratch: string,
): Promise<Uint16Array> {
  const name = path.join(scratch, `.${randomUUID()}`)
  try {
    await writePicture(`${name}.tif`, { samples, width, height }, { bits: 16, icc: icc ?? profileOf('srgb') })
    await writeFile(`${name}.icc`, profileOf(space))
    const { data } = await sharp(`${name}.tif`, { limitInputPixels: false })
      .pipelineColourspace('rgb16')
      .toColourspace('rgb16')
      .withIccProfile(`${name}.icc`)
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true })
      .catch((error: Error) => {
        throw /icc|profile/i.test(error.message) ? refusal('finish.profile') : error
      })
    return new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
  } finally {
    await Promise.all(['tif', 'icc'].map((ending) => rm(`${name}.${ending}`, { force: true })))
  }
}
