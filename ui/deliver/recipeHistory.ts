import type { Recipe } from '@/core/finish'

/** A recipe with what undo and redo go back to. */
export interface History {
  past: Recipe[]
  now: Recipe
  future: Recipe[]
  /** Changes of one kind that follow each other, such as a dragged handle, are one undo step. */
  kind?: string
}

/** The history after a change. */
export function changed(history: History, now: Recipe, kind?: string): History {
  const together = kind !== undefined && kind === history.kind
  return { past: together ? history.past : [...history.past, history.now], now, future: [], kind }
}

export function undone({ past, now, future }: History): History {
  return past.length === 0 ? { past, now, future } : { past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future] }
}

export function redone({ past, now, future }: History): History {
  return future.length === 0 ? { past, now, future } : { past: [...past, now], now: future[0], future: future.slice(1) }
}

/** The history after the stored recipe arrived: one that another tab changed is one undo step. */
export function received(history: History | undefined, stored: Recipe): History {
  if (!history) return { past: [], now: stored, future: [] }
  return JSON.stringify(history.now) === JSON.stringify(stored) ? history : changed(history, stored)
}
