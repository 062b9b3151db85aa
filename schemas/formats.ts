/** What a finished picture may be written as. */
export const FINISHED_FORMATS = ['tif', 'png', 'jpg', 'webp', 'avif'] as const
export type FinishedFormat = (typeof FINISHED_FORMATS)[number]
