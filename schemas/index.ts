export type {
  BinItem,
  BinKind,
  FrameDetail,
  JobDetail,
  JobKind,
  JobResults,
  JobState,
  RenderDetail,
  RunDetail,
  ShootDetail,
  ShootState,
  ShootSummary,
  StorageDetail,
} from './api'
export { check } from './check'
export { deviceCallSchema, fieldLogSchema, type DeviceCall, type DeviceReply, type Tones } from './field'
export { fuseSettingsSchema, type FuseSettings } from './fuseSettings'
export {
  JOB_FILES,
  JOB_VERSION,
  jobFileSchema,
  type BackupJob,
  type CheckJob,
  type CheckReport,
  type DeliverJob,
  type FrameFile,
  type FuseJob,
  type FuseOutputs,
  type JobFile,
  type RestoreJob,
  type ShootJob,
  type SplitJob,
  type SurveyJob,
} from './jobs'
export { checkKit, checkKitItem, shelfSchema } from './kit'
export { planRequestSchema } from './planRequest'
export { planOfSheet, planSheetSchema } from './planSheet'
export { placeOf, type FramePlace } from './framePlace'
export { checkBends, checkRegistration, registrationOf, type Registration } from './registration'
export { RECORD_VERSION, reportSchema, type FuseReport, type ReportFrame } from './report'
export { sceneRequestSchema } from './sceneRequest'
export {
  areaSchema,
  asideSchema,
  backupSchema,
  binItemSchema,
  folderSchema,
  idSchema,
  shootRequestSchema,
  standInSchema,
  type ShootRequest,
} from './shootRequest'
export {
  storedColour,
  storedFieldEvent,
  storedKit,
  storedPlan,
  storedReport,
  storedSheet,
  storedSurvey,
  storedTaken,
  type StoredColour,
} from './stored'
export { splitSchema, surveySchema } from './surveyReport'
