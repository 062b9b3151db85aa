import sharp from 'sharp'
import { tagPicture } from './tagPicture'
import { inPlace } from './writePicture'

interface Layer {
  /** Interleaved RGB of 16 bits, in the space of `icc`. */
  samples: Uint16Array
  /** 0 … 65535 a pixel; opaque where absent. */
  cover?: Uint16Array
  width: number
  height: number
}

/** A picture with transparency as PNG, of 8 or 16 bits: a layer for other programs. */
export async function writeLayer(
  file: string,
  { samples, cover, width, height }: Layer,
  { bits, icc }: { bits: 8 | 16; icc?: Buffer },
): Promise<void> {
  const whole = new Uint16Array(width * height * 4)
  for (let i = 0, s = 0, o = 0; i < width * height; i++, s += 3, o += 4) {
    whole[o] = samples[s]
    whole[o + 1] = samples[s + 1]
    whole[o + 2] = samples[s + 2]
    whole[o + 3] = cover ? cover[i] : 65535
  }
  const raw = { width, height, channels: 4 as const }
  const png = sharp(whole, { raw, limitInputPixels: false })
    .toColourspace(bits === 16 ? 'rgb16' : 'srgb')
    .png({ compressionLevel: 3 })
  await inPlace(file, async (part) => {
    await png.toFile(part)
    await tagPicture(part, 'png', { icc })
  })
}
