export { fieldsOf, SHELVES, type KitField, type ShelfFields } from './fields'
export { railStep_mm } from './items'
export type { Attachment, AttachmentKind, Body, Calibration, Kit, KitItem, Lens, Light, LightKind, Rail, RailKind, Shelf } from './items'
export { STARTER_KIT } from './starter'
