export { mergeSet } from './mergeSet'
export { offsetsOf } from './offsets'
export { mergedFile, type Merged, type Opened } from './set'
