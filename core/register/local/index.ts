export { measureLocal, quietLocal } from './measure'
export { reconcileLocal, type LocalLink } from './reconcile'
export { STIRRED, stirredShare } from './stir'
