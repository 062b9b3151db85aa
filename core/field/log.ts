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
  /** Back to an earlier run: the id of the entry that began it, empty for the first one. What follows belongs to it. */
  | { kind: 'returned'; run: string }
  /** A line of the preparation list was seen to, or not yet after all. */
  | { kind: 'prepared'; line: string; done: boolean }
  /** The frame to take now was exposed. `position` is the plane of focus in the coordinates of the plan, where it is not the planned one. */
  | { kind: 'taken'; position?: number }
  /** The body took so many frames by itself, one after the other. */
  | { kind: 'bracketed'; frames: number }
  /** A frame that was missing was taken afterwards, focused here; what lies ahead stays as it is. */
  | { kind: 'filled'; position: number }
  /** The last frame was exposed once more, the focus unmoved. */
  | { kind: 'repeated' }
  /** A frame beside the plan: a test, a divider, or one for good measure. */
  | { kind: 'extra'; what: 'test' | 'divider' | 'spare' }
  /** The frame to take now was left out. */
  | { kind: 'missed' }
  /** The frame of this entry was not taken after all; those after it were, and stay where they are. */
  | { kind: 'cleared'; entry: string }
  /** The entry of this id was one tick too many; those after it move up. */
  | { kind: 'undone'; entry: string }
  /** Resting and going on. */
  | { kind: 'paused' }
  | { kind: 'resumed' }

/** Puts logs together: each entry once, in the order of time. */
export function mergeLogs(...logs: FieldEntry[][]): FieldEntry[] {
  const byId = new Map(logs.flat().map((entry) => [entry.id, entry]))
  return [...byId.values()].sort((a, b) => (a.at === b.at ? (a.id < b.id ? -1 : 1) : a.at < b.at ? -1 : 1))
}

/** How many frames a log tells of, in all of its runs: what was exposed by hand or by the body, once more, or beside the plan. */
export function framesTold(log: FieldEntry[]): number {
  const gone = new Set(log.flatMap((entry) => (entry.kind === 'undone' || entry.kind === 'cleared' ? [entry.entry] : [])))
  return log.reduce((sum, entry) => {
    if (gone.has(entry.id)) return sum
    if (entry.kind === 'bracketed') return sum + entry.frames
    return entry.kind === 'taken' || entry.kind === 'filled' || entry.kind === 'repeated' || entry.kind === 'extra' ? sum + 1 : sum
  }, 0)
}

/** What one run of a log holds, without entries that were mistakes. */
export interface LoggedRun {
  /** Id of the entry that began it; empty for the first one. */
  id: string
  entries: FieldEntry[]
}

/** All runs of a log in the order in which they were begun, and the one that what comes next belongs to. */
export function runsOf(log: FieldEntry[]): { runs: LoggedRun[]; current: LoggedRun } {
  const undone = new Set(log.flatMap((entry) => (entry.kind === 'undone' ? [entry.entry] : [])))
  const runs: LoggedRun[] = [{ id: '', entries: [] }]
  let current = runs[0]
  for (const entry of log) {
    if (entry.kind === 'undone' || undone.has(entry.id)) continue
    if (entry.kind === 'begin') runs.push((current = { id: entry.id, entries: [] }))
    else if (entry.kind === 'returned') current = runs.find(({ id }) => id === entry.run) ?? current
    else current.entries.push(entry)
  }
  return { runs, current }
}
