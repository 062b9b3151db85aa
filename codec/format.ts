import path from 'node:path'

/** The formats that pictures are written in, with the endings of their names, the usual one first. */
const ENDINGS = { tif: ['tif', 'tiff'], png: ['png'], jpg: ['jpg', 'jpeg'] } as const

export type PictureFormat = keyof typeof ENDINGS

export const PICTURE_FORMATS = Object.keys(ENDINGS) as PictureFormat[]

/** The format that a file's name asks for; undefined where it asks for none that is written. */
export function askedFormat(file: string): PictureFormat | undefined {
  const ending = path.extname(file).toLowerCase().slice(1)
  return PICTURE_FORMATS.find((format) => (ENDINGS[format] as readonly string[]).includes(ending))
}

/** The same, or JPEG. */
export const formatOf = (file: string): PictureFormat => askedFormat(file) ?? 'jpg'
