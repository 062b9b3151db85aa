export type {
  BinItem,
  BinKind,
  FrameDetail,
  JobDetail,
  LogPage,
  MendDetail,
  RecipeDetail,
  JobKind,
  JobResults,
  JobState,
  RenderDetail,
  RenderInShort,
  RenderPage,
  RunDetail,
  ShootDetail,
  ShootPage,
  ShootState,
  ShootSummary,
  WatchDetail,
  ImportDetail,
  StorageDetail,
} from './api'
export { check } from './check'
export type { RunDevelopment } from './development'
export { claimSchema, tokenSchema, type PairedDevice, type PairingOffer, type PairingState } from './pairing'
export { deviceCallSchema, fieldLogSchema, type DeviceCall, type DeviceReply, type FieldLogRequest, type Tones } from './field'
export { DUST, fuseSettingsSchema, type FuseSettings } from './fuseSettings'
export {
  JOB_FILES,
  JOB_VERSION,
  restFile,
  jobFileSchema,
  type BackupJob,
  type CheckJob,
  type CheckReport,
  type FrameFile,
  type FinishJob,
  type TakeJob,
  type FuseJob,
  type MeasureJob,
  type NeededJob,
  type InspectJob,
  type MendJob,
  type FuseOutputs,
  type JobFile,
  type RestoreJob,
  type ShootJob,
  type SplitJob,
  type SurveyJob,
} from './jobs'
export { checkKit, checkKitItem, shelfSchema } from './kit'
export type { NeededReport, NeededSubset } from './needed'
export { planRequestSchema } from './planRequest'
export { mendBaseSchema, mendEditSchema, mendSchema, MOST_EDITS, newEditsSchema, newMendSchema } from './mend'
export { planOfSheet, planSheetSchema } from './planSheet'
export { placeOf, type FramePlace } from './framePlace'
export { checkBends, checkRegistration, registrationOf, type Registration } from './registration'
export { inShort, RECORD_VERSION, reportSchema, type FuseReport, type ReportFrame, type ReportInShort, type ReportPart } from './report'
export { renderQuerySchema, shootQuerySchema, type RenderQuery, type ShootOrder, type ShootQuery } from './shootQuery'
export { asPrinted, PAPER_SIZES, sheetRequestSchema, targetFactsSchema, type PaperSize, type SheetRequest, type TargetFile } from './target'
export { sceneRequestSchema } from './sceneRequest'
export {
  areaSchema,
  cardPlaceSchema,
  asideSchema,
  developLikeSchema,
  type DevelopLike,
  backupSchema,
  binItemSchema,
  depthsSchema,
  logQuerySchema,
  lookSchema,
  folderSchema,
  idSchema,
  shootRequestSchema,
  pixelSchema,
  shootWordsSchema,
  runNotesSchema,
  standInSchema,
  type StandInRequest,
  viewSchema,
  type ShootRequest,
  type LogQuery,
  type RunNotes,
  type ShootWords,
} from './shootRequest'
export {
  storedColour,
  storedDevelopment,
  storedBase,
  storedEdit,
  storedFieldEvent,
  storedKit,
  storedNeeded,
  storedPlan,
  storedReport,
  storedReportInShort,
  storedSheet,
  storedPlaces,
  storedSurvey,
  storedTaken,
  type StoredColour,
} from './stored'
export { splitSchema, surveySchema, type SplitReport } from './surveyReport'
export {
  batchSchema,
  checkRecipe,
  finishRequestSchema,
  newRecipeSchema,
  proofSchema,
  RECIPE_VERSION,
  recipeSchema,
  takeRequestSchema,
  wordsSchema,
  type ProofOf,
} from './recipe'
export { madeText } from './made'
export { fileEnding, FINISHED_FORMATS, LAYERED, LOSSLESS, TAKE_NAMES, TAKES, type FinishedFormat, type Take, type TakeEnding } from './formats'
export { practiceTrySchema, type KeptTry, type PracticeTry } from './practice'
