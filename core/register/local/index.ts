export { measureLocal, quietLocal } from './measure'
export { reconcileLocal, type LocalLink } from './reconcile'
export { steadied } from './steady'
export { STIRRED, stirredShare } from './stir'
