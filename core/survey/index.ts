export { againstPlan } from './againstPlan'
export { Survey, type Gap, type Role, type SurveyedFrame, type SurveyMessage, type SurveyReport } from './survey'
export type { Mover } from './direction'
