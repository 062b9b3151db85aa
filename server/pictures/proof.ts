import { randomUUID } from 'node:crypto'
import path from 'node:path'
import { readGrey } from '@/codec'
import { onScreen } from './derived'

/** Samples of 16 bits, the lower byte first, and how many px across and down. */
export interface ProofSamples {
  samples: Buffer
  width: number
  height: number
}

/** A picture as a screen shows it, at most so wide: interleaved RGB of sRGB. `scratch` is a folder to work in. */
export function proofPicture(source: string, width: number, scratch: string): Promise<ProofSamples> {
  return onScreen(source, path.join(scratch, randomUUID()), async (picture) => {
    const { data, info } = await picture
      .resize({ width, withoutEnlargement: true })
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true })
    return { samples: data, width: info.width, height: info.height }
  })
}

/** A map of a picture, as small. */
export async function proofMap(source: string, width: number): Promise<ProofSamples> {
  const map = await readGrey(source, width)
  return { ...map, samples: Buffer.from(map.data.buffer, map.data.byteOffset, map.data.byteLength) }
}
