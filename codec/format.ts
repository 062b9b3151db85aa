import path from 'node:path'

/** The formats that pictures are written in. */
export type PictureFormat = 'tif' | 'png' | 'jpg'

export function formatOf(file: string): PictureFormat {
  const ending = path.extname(file).toLowerCase().slice(1)
  if (ending === 'tif' || ending === 'tiff') return 'tif'
  if (ending === 'png') return 'png'
  return 'jpg'
}
