export { FRAME_ENDINGS, isPicture, isRaw, withoutPairs } from './names'
export { sortBySize, type SizedName } from './sortBySize'
export { Transfer } from './transfer'
