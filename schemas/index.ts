export type {
  FrameDetail,
  FrameExif,
  FuseReport,
  JobDetail,
  JobKind,
  JobState,
  RenderDetail,
  RunDetail,
  ShootDetail,
  ShootState,
  ShootSummary,
} from './api'
export { check, InputError, isForUser } from './check'
export { completePlanRequest, planRequestSchema } from './planRequest'
export { deviceCallSchema, fieldLogSchema, type DeviceCall, type DeviceReply, type Tones } from './field'
export { fuseSettingsSchema, type FuseSettings } from './fuseSettings'
export { sceneRequestSchema } from './sceneRequest'
export { areaSchema, asideSchema, folderSchema, idSchema, shootRequestSchema, standInSchema, type ShootRequest } from './shootRequest'
export { checkKit, checkKitItem, shelfSchema } from './kit'
export { planOfSheet, planSheetSchema, storedSheetPlan, type SheetAnswer } from './planSheet'
