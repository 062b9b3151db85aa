export { ROLE_WORDS, sortedFrames, surveyHeadline, type SortedFrame } from './roles'
export { SurveyReportView } from './SurveyReportView'
export { UnsharpOverlay } from './UnsharpOverlay'
