import type { Sentence } from '../words'

/** 1 to begin with, 3 as hard as real work. */
export type Level = 1 | 2 | 3

export const LEVELS: readonly Level[] = [1, 2, 3]

/** How well a try went, 0 … 100, and what there is to learn from it. */
export interface Mark {
  percent: number
  said: Sentence[]
}

/** An exercise: tasks without end, the same for the same seed and level, and what an answer is worth beside the truth. */
export interface Exercise<Task, Answer> {
  title: string
  /** What it trains, in a sentence. */
  aim: string
  /** What real work would want one to mind; absent where nothing can go wrong. */
  caution?: string
  pose(seed: number, level: Level): Task
  mark(task: Task, answer: Answer): Mark
}

/** A mark within 0 … 100, in whole percent. */
export const percentOf = (points: number) => Math.round(Math.min(100, Math.max(0, points)))
