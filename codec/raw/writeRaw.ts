import sharp from 'sharp'
import { dngFile, type RawPicture, type TakenWith } from '@/core/formats'
import { toInterleaved16, type Picture } from '@/core/raster'
import { writeWhole } from '../writePicture'

/** Cameras put a picture of about this size into a raw file, to be looked at at once. */
const PREVIEW_px = 1620

/** Writes a raw picture as a DNG file, with `picture`, as the camera would develop it, as its preview. */
export async function writeRaw(file: string, raw: RawPicture, picture: Picture, taken: TakenWith, software: string): Promise<void> {
  const { width, height } = picture
  const { data, info } = await sharp(toInterleaved16(picture), { raw: { width, height, channels: 3 }, limitInputPixels: false })
    .resize({ width: PREVIEW_px, height: PREVIEW_px, fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .jpeg({ quality: 88 })
    .toBuffer({ resolveWithObject: true })
  await writeWhole(file, dngFile(raw, { jpeg: data, width: info.width, height: info.height }, taken, software))
}
