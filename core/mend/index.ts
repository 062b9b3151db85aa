export {
  framesOfBase,
  standingEdits,
  type BoundaryFrame,
  type MendBase,
  type MendDocument,
  type MendEdit,
  type PaintEdit,
  type Stroke,
} from './edits'
export { membrane, type Patch } from './membrane'
export { layBelow, Mender, seenBy, type Depths } from './mender'
export { strengthAt, strokeBounds, strokeMask, type StrokeMask } from './stroke'
export { linesByDepth } from './lines'
export { strokeOver } from './over'
