import type { Level, Mark } from '@/core/practice'
import type { Darkroom } from './darkroom'

/** What every exercise's screen is given. */
export interface PlayerProps<Task, Answer> {
  task: Task
  seed: number
  level: Level
  darkroom: Darkroom | undefined
  onAnswer: (answer: Answer) => void
  /** There once the answer was marked; from then on nothing changes any more. */
  mark?: Mark
}
