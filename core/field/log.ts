/**
 * What happened in the field, entry by entry. The log only grows: a phone without a connection and the server can both
 * hold parts of it and put them together in any order.
 */
export type FieldEntry = {
  /** Unique; an entry that arrives twice counts once. */
  id: string
  /** ISO 8601, UTC. */
  at: string
} & FieldEvent

export type FieldEvent =
  /** A new run; what came before belongs to earlier ones. */
  | { kind: 'begin' }
  /** A line of the preparation list was seen to, or not yet after all. */
  | { kind: 'prepared'; line: string; done: boolean }
  /** A frame was exposed. `position` is the plane of focus in the coordinates of the plan, where it is not the planned one. */
  | { kind: 'taken'; position?: number }
  /** The last frame was exposed once more, the focus unmoved. */
  | { kind: 'repeated' }
  /** A frame beside the plan: a test, a divider, or one for good measure. */
  | { kind: 'extra'; what: 'test' | 'divider' | 'spare' }
  /** The frame to take now was left out. */
  | { kind: 'missed' }
  /** Resting and going on. */
  | { kind: 'paused' }
  | { kind: 'resumed' }
  /** The entry of this id was a mistake. */
  | { kind: 'undone'; entry: string }

/** Puts logs together: each entry once, in the order of time. */
export function mergeLogs(...logs: FieldEntry[][]): FieldEntry[] {
  const byId = new Map(logs.flat().map((entry) => [entry.id, entry]))
  return [...byId.values()].sort((a, b) => (a.at === b.at ? (a.id < b.id ? -1 : 1) : a.at < b.at ? -1 : 1))
}

/** Id of the entry that began the newest run; empty while there was only one. */
export function runBegunBy(log: FieldEntry[]): string {
  return log.findLast(({ kind }) => kind === 'begin')?.id ?? ''
}

/** Entries of the newest run, without those that were mistakes. */
export function newestRun(log: FieldEntry[]): FieldEntry[] {
  const undone = new Set(log.flatMap((entry) => (entry.kind === 'undone' ? [entry.entry] : [])))
  const stands = log.filter((entry) => entry.kind !== 'undone' && !undone.has(entry.id))
  return stands.slice(stands.findLastIndex(({ kind }) => kind === 'begin') + 1)
}
