/** What a finished picture may be written as. */
export const FINISHED_FORMATS = ['tif', 'png', 'jpg', 'webp', 'avif', 'ora'] as const

/** Those that lose nothing, of 8 or 16 bits. */
export const LOSSLESS: readonly string[] = ['tif', 'png', 'ora']
export type FinishedFormat = (typeof FINISHED_FORMATS)[number]
