import path from 'node:path'

/** The formats that pictures are written in, with the endings of their names, the usual one first. */
const ENDINGS = { tif: ['tif', 'tiff'], png: ['png'], jpg: ['jpg', 'jpeg'] } as const

export type PictureFormat = keyof typeof ENDINGS

/** The format that a file's name asks for; JPEG where it asks for none. */
export function formatOf(file: string): PictureFormat {
  const ending = path.extname(file).toLowerCase().slice(1)
  const asked = Object.entries(ENDINGS).find(([, endings]) => (endings as readonly string[]).includes(ending))
  return (asked?.[0] as PictureFormat | undefined) ?? 'jpg'
}
