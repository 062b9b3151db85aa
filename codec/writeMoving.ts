import sharp from 'sharp'
import type { ScreenPicture } from './screenSamples'
import { inPlace } from './writePicture'

/** Writes pictures of one size as one that moves, over and over: animated WebP, or GIF where the name says so. */
export async function writeMoving(file: string, pictures: ScreenPicture[], delay_ms: number): Promise<void> {
  const [{ width, height }] = pictures
  const all = Buffer.concat(pictures.map(({ samples }) => samples))
  const moving = sharp(all, { raw: { width, height: height * pictures.length, channels: 3, pageHeight: height }, limitInputPixels: false })
  const delay = pictures.map(() => delay_ms)
  await inPlace(file, (part) =>
    (/\.gif$/i.test(file) ? moving.gif({ delay, loop: 0, effort: 5 }) : moving.webp({ delay, loop: 0, quality: 85, effort: 3 })).toFile(part),
  )
}
