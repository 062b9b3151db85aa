export type { Curvature } from './curvature'
export { lightOf } from './light'
export { TargetMeasure, type MeasuredFrame, type MeasuredTarget, type TargetFacts } from './measure'
export {
  BAR_pitches,
  BARS,
  CODE,
  EDGE_s,
  EDGE_u,
  inkUntil,
  LADDER_u,
  LARGE_dot,
  LEAST_pitch_mm,
  MOST_pitch_mm,
  rowAt,
  ROWS,
  SMALL_dot,
} from './sheet'
