/** What a finished picture may be written as. */
export const FINISHED_FORMATS = ['tif', 'png', 'jpg', 'webp', 'avif', 'ora', 'pages'] as const

export type FinishedFormat = (typeof FINISHED_FORMATS)[number]

/** Those that lose nothing, of 8 or 16 bits. */
export const LOSSLESS: readonly FinishedFormat[] = ['tif', 'png', 'ora', 'pages']
/** Those that hold the frames as well: OpenRaster, and a TIFF of several pages. */
export const LAYERED: readonly FinishedFormat[] = ['ora', 'pages']
/** What the name of a file of this format ends with. */
export const fileEnding = (format: FinishedFormat): string => (format === 'pages' ? 'tif' : format)

/** What may be taken along of a render beside the picture itself, and as which kinds of file. */
export const TAKES = {
  /** Every registered frame, as a TIFF of 16 bits. */
  frames: ['zip'],
  /** Which frame shows where: the map, and a mask for each frame. */
  masks: ['zip'],
  /** The focus going through the subject and back. */
  focusRun: ['webp', 'gif'],
  /** The relief seen a little from the left, then from the right. */
  rocking: ['webp', 'gif'],
  /** The left eye's picture on the left, the right eye's on the right; or the other way round. */
  stereo: ['jpg', 'png'],
  crossed: ['jpg', 'png'],
  /** The relief with the picture on it, to turn, print or measure elsewhere. */
  relief: ['glb', 'stl', 'obj', 'ply'],
} as const satisfies Record<string, readonly string[]>
export type Take = keyof typeof TAKES
export const TAKE_NAMES = Object.keys(TAKES) as Take[]
export type TakeEnding = (typeof TAKES)[Take][number]
