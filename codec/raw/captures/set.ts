import type { LibRawSettings } from 'libraw-wasm'
import type { Interleaved } from '@/core/raster'
import type { RawFile } from '../library'

/** What became of a set: merged, or only its first capture used as so much of the picture moved between them. */
export interface Merged {
  captures: number
  used: number
  moved_percent: number
}

/** Where it is kept what became of the set that a picture was developed from. */
export const mergedFile = (picture: string) => `${picture}.json`

/** Opens a raw file with these settings, and closes it when it was read; undefined where it is damaged. */
export type Opened = <T>(bytes: Uint8Array, settings: LibRawSettings, read: (raw: RawFile) => T) => T | undefined

/** The mosaic as it was counted, spread over three channels; never turned, as its filters would be. */
export const AS_COUNTED: LibRawSettings = { noInterpolation: true, userFlip: 0 }

export function mosaicOf(raw: RawFile): Interleaved {
  raw.metadata(true)
  const { width, height, data } = raw.imageData()
  return { width, height, samples: data as Uint16Array }
}
