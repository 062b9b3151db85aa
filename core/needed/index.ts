export { keptDetail, type KeptDetail, type Luma } from './detail'
export { judged, lossOf, type Loss } from './loss'
export { framesNeeded, type Needed, type Subset } from './search'
export { evenly, everyNth } from './subsets'
