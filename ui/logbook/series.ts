import type { LogEntry } from '@/core/logbook'

/** The entries as the charts show them, the oldest first. */
export function seriesOf(entries: LogEntry[]) {
  const inTime = [...entries].sort((a, b) => a.at.localeCompare(b.at))
  return {
    frames: inTime.map(({ at, title, used, needed }) => ({ at, title, taken: used, ...(needed && { needed: needed.frames }) })),
    strides: inTime.flatMap(({ at, stride, planned }) => (stride && planned ? [{ at, percent: (100 * stride.mean_mm) / planned.stride_mm }] : [])),
    times: inTime.flatMap(({ at, frame_s }) => (frame_s === null ? [] : [{ at, seconds: frame_s }])),
  }
}
