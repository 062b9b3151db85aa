export { gapRisk, knownStep, type DriveModel, type KnownStep, type StepCalibration } from './steps'
export { knownClick, knownRail, type ClickCalibration, type KnownWay, type RailCalibration } from './ways'
