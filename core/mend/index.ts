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
export { cutPart, layBelow, Mender, piecesOf, seenBy, type Depths } from './mender'
export { strengthAt, strokeBounds, strokeMask, touchedBy, type StrokeMask } from './stroke'
export { linesByDepth } from './lines'
export { strokeOver } from './over'
