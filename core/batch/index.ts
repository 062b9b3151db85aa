export { FRAME_ENDINGS, isPicture, isRaw, withoutPairs } from './names'
export { sortBySize, type SizedName } from './sortBySize'
export { Transfer } from './transfer'

/** Fewer frames are not looked through for series. */
export const LEAST_TO_SPLIT = 4
