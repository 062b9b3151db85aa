export { chainedParts, stepFor, type Bracketing, type StepAdvice } from './bracketing'
export { microstep_mm, microstepsAt, type MotorRail } from './motor'
export { checkTravel, dialAt, railResolution_mm, type DialReading, type ManualRail } from './rail'
export { moverAdvice, type MoverAdvice } from './railOrRing'
