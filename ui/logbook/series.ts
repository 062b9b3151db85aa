import { neededOverlap, type LogEntry } from '@/core/logbook'

/** Which runs the charts are of: all, or those with one lens, or by one setting of it. */
export interface Chosen {
  value: string
  label: string
  fits: (entry: LogEntry) => boolean
}

const settingOf = ({ lens, fNumber, mover }: LogEntry) =>
  [lens, fNumber && `f/${fNumber}`, mover && (mover === 'ring' ? 'ring' : mover)].filter(Boolean).join(', ')

/** Every lens, and every setting of it that two runs or more were taken with. */
export function choices(entries: LogEntry[]): Chosen[] {
  const several = (of: (entry: LogEntry) => string) => {
    const counts = new Map<string, number>()
    for (const entry of entries) if (entry.lens) counts.set(of(entry), (counts.get(of(entry)) ?? 0) + 1)
    return [...counts].filter(([, count]) => count > 1).map(([name]) => name).sort() // prettier-ignore
  }
  const [lenses, settings] = [several(({ lens }) => lens!), several(settingOf)]
  return [
    { value: 'all', label: 'every lens', fits: () => true },
    ...lenses.map((name) => ({ value: `lens ${name}`, label: name, fits: ({ lens }: LogEntry) => lens === name })),
    ...settings.map((name) => ({ value: `setting ${name}`, label: name, fits: (entry: LogEntry) => settingOf(entry) === name })),
  ]
}

/** Finer than this nothing is measured, and axes would show what floating-point numbers leave. */
const tenths = (value: number) => Math.round(10 * value) / 10

/** The entries as the charts show them, the oldest first. */
export function seriesOf(entries: LogEntry[]) {
  const inTime = [...entries].sort((a, b) => a.at.localeCompare(b.at))
  const each = <T>(of: (entry: LogEntry) => T | null) =>
    inTime.flatMap((entry) => {
      const point = of(entry)
      return point === null ? [] : [{ at: entry.at, title: entry.title, ...point }]
    })
  return {
    frames: each(({ used, needed }) => ({ taken: used, ...(needed && { needed: needed.frames }) })),
    wasted: each(({ flawed, idle, used, needed }) => ({ flawed, repeated: idle, more: needed ? Math.max(0, used - needed.frames) : 0 })),
    strides: each(({ stride, planned }) => (stride && planned ? { percent: tenths((100 * stride.mean_mm) / planned.stride_mm) } : null)),
    depths: each(({ depthOfField }) => depthOfField && { percent: tenths(100 * depthOfField.ratio) }),
    overlaps: each((entry) => {
      const needed = neededOverlap(entry)
      return needed === null ? null : { planned: 100 * entry.planned!.overlap, needed: 100 * needed }
    }),
    times: each(({ frame_s, frames }) => (frame_s === null ? null : { minutes: (frame_s * Math.max(0, frames - 1)) / 60 })),
    lost: lostBy(inTime),
  }
}

/** Why runs did not come out whole, and how many for each reason; a run may have several. */
function lostBy(entries: LogEntry[]): { why: string; runs: number }[] {
  const lost = entries.filter(({ complete }) => complete === false)
  const counted = (why: string, is: (entry: LogEntry) => boolean) => ({ why, runs: lost.filter(is).length })
  return [
    counted('a gap', ({ gaps }) => gaps > 0),
    counted('an end not reached', ({ gaps }) => gaps === 0),
    counted('a frame that failed', ({ flawed }) => flawed > 0),
    counted('something moved', ({ moved_percent }) => (moved_percent ?? 0) >= MUCH_percent),
    counted('light that changed', ({ exposure_ev }) => (exposure_ev ?? 0) >= MUCH_ev),
  ].filter(({ runs }) => runs > 0)
}

const MUCH_percent = 5
const MUCH_ev = 0.3
