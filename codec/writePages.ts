import { stat } from 'node:fs/promises'
import sharp from 'sharp'
import { refusal } from '@/core/words'
import { tagPages, type Page, type Tags } from './tagPicture'
import { inPlace } from './writePicture'

/** Pages of a TIFF are so many bytes at the most, all together. */
const MOST_bytes = 4e9
/** Layers that take this much more as PNG do not fit, however their pages are compressed: that is said before they are written for minutes. */
const SURELY_MORE = 1.5

/**
 * Writes layers, PNG files of one size with transparency, as the pages of one TIFF, each under its name. Layers are read a few rows at a
 * time, so that memory does not grow with their number. @throws Refusal where they are more than such a file can hold.
 */
export async function writePages(file: string, layers: (Page & { file: string })[], bits: 8 | 16, tags: Tags): Promise<void> {
  const sizes = await Promise.all(layers.map(async (layer) => (await stat(layer.file)).size))
  if (sizes.reduce((sum, size) => sum + size, 0) > SURELY_MORE * MOST_bytes) throw refusal('finish.pagesSize')
  const joined = sharp(
    layers.map((layer) => layer.file),
    { join: { animated: true }, limitInputPixels: false, sequentialRead: true },
  )
  await inPlace(file, async (part) => {
    const { size } = await joined
      .toColourspace(bits === 16 ? 'rgb16' : 'srgb')
      .tiff({ compression: 'deflate', predictor: 'horizontal' })
      .toFile(part)
      .catch((error: Error) => {
        throw /maximum tiff file size|file size exceeded/i.test(error.message) ? refusal('finish.pagesSize') : error
      })
    if (size > MOST_bytes) throw refusal('finish.pagesSize')
    await tagPages(part, tags, layers)
  })
}
