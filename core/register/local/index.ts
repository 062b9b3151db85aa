export { measureLocal } from './measure'
export { reconcileLocal, type LocalLink } from './reconcile'
