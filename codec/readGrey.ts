import sharp from 'sharp'

/** A map beside a picture: its depth, its confidence, or which frame shows where. */
export interface GreyMap {
  width: number
  height: number
  data: Uint16Array
}

/** A grey picture as 16 bits, one of 8 bits brought to the whole range; at most `mostWidth_px` wide. */
export async function readGrey(file: string, mostWidth_px?: number): Promise<GreyMap> {
  const picture = sharp(file, { limitInputPixels: false })
  const { data, info } = await (mostWidth_px ? picture.resize({ width: mostWidth_px, withoutEnlargement: true }) : picture)
    .toColourspace('grey16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) }
}
