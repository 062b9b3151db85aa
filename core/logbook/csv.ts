import { unparse } from 'papaparse'
import { neededOverlap, type LogEntry } from './entry'

/** Columns of the logbook as a table; units stand in the names. */
const COLUMNS: [name: string, of: (entry: LogEntry) => string | number | null][] = [
  ['title', (entry) => entry.title],
  ['run', (entry) => entry.number],
  ['begun', (entry) => entry.at],
  ['source', (entry) => entry.source],
  ['body', (entry) => entry.body],
  ['lens', (entry) => entry.lens],
  ['f_number', (entry) => entry.fNumber],
  ['magnification', (entry) => entry.magnification],
  ['mover', (entry) => entry.mover],
  ['frames_planned', (entry) => entry.planned?.frames ?? null],
  ['stride_planned_mm', (entry) => entry.planned?.stride_mm ?? null],
  ['overlap_planned_percent', (entry) => (entry.planned ? 100 * entry.planned.overlap : null)],
  ['frames_taken', (entry) => entry.frames],
  ['frames_used', (entry) => entry.used],
  ['stride_mm', (entry) => entry.stride?.mean_mm ?? null],
  ['stride_by', (entry) => entry.stride?.by ?? null],
  ['stride_spread_mm', (entry) => entry.stride?.spread_mm ?? null],
  ['stride_spread_is', (entry) => (entry.stride ? (entry.stride.spreadKnown ? 'measured' : 'at most') : null)],
  ['depth_of_field_mm', (entry) => entry.depthOfField?.found_mm ?? null],
  ['depth_of_field_of_formula_percent', (entry) => percentOf(entry.depthOfField?.ratio ?? null)],
  ['seconds_a_frame', (entry) => entry.frame_s],
  ['exposure_spread_ev', (entry) => entry.exposure_ev],
  ['flawed', (entry) => entry.flawed],
  ['repeated', (entry) => entry.idle],
  ['gaps', (entry) => entry.gaps],
  ['moved_percent', (entry) => entry.moved_percent],
  ['frames_needed', (entry) => entry.needed?.frames ?? null],
  ['overlap_needed_percent', (entry) => percentOf(neededOverlap(entry))],
  ['renders', (entry) => entry.renders],
  ['style', (entry) => entry.style],
  ['delivered', (entry) => entry.delivered],
  ['bytes', (entry) => entry.bytes],
  ['stars', (entry) => entry.stars],
  ['tags', (entry) => entry.tags.join(' ')],
  ['note', (entry) => entry.note],
]

const percentOf = (share: number | null) => (share === null ? null : 100 * share)

/** The entries as CSV with a head (RFC 4180); numbers have at most six digits, and no word is taken for a formula. */
export function logCsv(entries: LogEntry[]): string {
  const data = entries.map((entry) => COLUMNS.map(([, of]) => rounded(of(entry))))
  return unparse({ fields: COLUMNS.map(([name]) => name), data }, { newline: '\r\n', escapeFormulae: /^[=+\-@\t\r]/ })
}

const rounded = (value: string | number | null) => (typeof value === 'number' ? Number(value.toPrecision(6)) : value)
