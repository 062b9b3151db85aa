export { fieldsOf, SHELVES, type KitField, type ShelfFields } from './fields'
export { clickRunsOf, railRunsOf, railStep_mm, stepRunsOf } from './items'
export type {
  Attachment,
  AttachmentKind,
  Body,
  Calibration,
  CalibrationKind,
  Kit,
  KitItem,
  Lens,
  Light,
  LightKind,
  Rail,
  RailKind,
  Shelf,
} from './items'
export { STARTER_KIT } from './starter'
