import type { Weighing } from './weighing'

/** Which of two sharp depths at one place wins, such as a hair before a shell. */
export const PREFERENCES = ['none', 'near', 'far'] as const
export type Preference = (typeof PREFERENCES)[number]

/** What a style leaves open. Each is the style's own choice where it is absent. */
export interface Tuning {
  /** Which of two sharp depths wins; frames are taken to run from near to far. */
  prefer?: Preference
  /** How soft the borders between frames are: 0 hard, 0.5 as the style has them, 1 soft. */
  boundary?: number
  /** How far around a place its sharpness is gathered: 1 the least, 4 wide. */
  neighbourhood?: number
  /** What counts as detail, in multiples of the noise: below it nothing is chosen by sharpness, and noise averages away. */
  floor?: number
  /** Whether the finest detail, which interpolation and averaging soften, is brought out: frames come twice then. */
  finest?: boolean
}

/** Weights are energies to this power at the most: more does not fit 32 bits where contrast is high. */
const MOST_DECISION = 7

/** A style's weighing with what was asked for. The decision doubles at boundary 0 and halves at 1. */
export function tuned(weighing: Weighing, { boundary = 0.5, neighbourhood }: Tuning): Weighing {
  const decision = Math.min(MOST_DECISION, Math.max(1, Math.round(weighing.decision * 4 ** (0.5 - boundary))))
  return { ...weighing, decision, smoothings: neighbourhood ?? weighing.smoothings }
}
