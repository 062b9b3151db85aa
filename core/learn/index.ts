export { gapRisk, knownStep, type DriveModel, type KnownStep, type StepCalibration } from './steps'
