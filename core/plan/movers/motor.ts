/** A motorised rail: its screw, and what a driver sends it. */
export interface MotorRail {
  pitch_mm: number
  /** Full steps of the motor to a turn, and microsteps to a full step. */
  stepsPerTurn: number
  microsteps: number
  length_mm: number
}

/** One microstep, in mm of travel. */
export function microstep_mm({ pitch_mm, stepsPerTurn, microsteps }: MotorRail): number {
  return pitch_mm / (stepsPerTurn * microsteps)
}

/** Microsteps from zero for a travel, to the nearest one. */
export function microstepsAt(travel_mm: number, rail: MotorRail): number {
  return Math.round(travel_mm / microstep_mm(rail))
}
