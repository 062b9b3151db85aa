import { neededOverlap, type LogEntry } from '@/core/logbook'
import { durationText, lengthText, significant, storageText, type UnitSystem } from '@/core/units'

const frames = (count: number) => (count === 1 ? '1 frame' : `${count} frames`)
const percent = (share: number) => `${Math.round(100 * share)} %`

/** What with: body, lens, aperture, magnification and mover, as far as they are known. */
export function gearText({ body, lens, fNumber, magnification, mover }: LogEntry): string {
  const size =
    magnification === null ? '' : magnification >= 1 ? ` at ${significant(magnification, 3)} : 1` : ` at 1 : ${significant(1 / magnification, 3)}`
  const aperture = fNumber === null ? size.trim() : `f/${significant(fNumber, 3)}${size}`
  return [body, lens, aperture, mover && (mover === 'ring' ? 'by the focus ring' : `by the ${mover}`)].filter(Boolean).join(', ')
}

/** What came of a run, in sentences: the frames, the stride, how it went, how many were needed, what was made of it. */
export function findingsOf(entry: LogEntry, units: UnitSystem): string[] {
  return [takenText(entry), strideText(entry, units), depthText(entry, units), checkedText(entry), neededText(entry), madeText(entry)].filter(
    (text) => text !== '',
  )
}

function takenText({ frames: taken, used, planned, frame_s }: LogEntry): string {
  const of = planned && planned.frames !== taken ? `, ${planned.frames} planned` : planned ? ', as planned' : ''
  const out = used < taken ? `, ${taken - used} left out` : ''
  const each = frame_s === null ? '' : `, ${durationText(Math.max(1, frame_s))} each`
  return `${frames(taken)}${of}${out}${each}.`
}

function strideText({ stride, planned }: LogEntry, units: UnitSystem): string {
  if (!stride) return ''
  const { mean_mm, spread_mm, spreadKnown, by } = stride
  const told = { position: '', perspective: ', told by how the view grew', breathing: ', told by how the lens breathed' }[by]
  const than = planned && Math.abs(mean_mm / planned.stride_mm - 1) > 0.02 ? ` (${lengthText(planned.stride_mm, units)} planned)` : ''
  const spread = (100 * spread_mm) / mean_mm
  const evenly = spread < 0.5 ? ', evenly' : `, ${spreadKnown ? 'give or take' : 'evenly to within'} ${significant(spread, 1)} %`
  return `${lengthText(mean_mm, units)} apart${than}${told}${evenly}.`
}

/** Below this difference depth of field is as reckoned, as far as frames tell. */
const ALIKE = 0.1

function depthText({ depthOfField }: LogEntry, units: UnitSystem): string {
  if (!depthOfField) return ''
  const { ratio, found_mm } = depthOfField
  const than = Math.abs(ratio - 1) <= ALIKE ? 'as' : `${percent(Math.abs(ratio - 1))} ${ratio > 1 ? 'deeper' : 'less deep'} than`
  return `Slices ${lengthText(found_mm, units)} deep, ${than} reckoned.`
}

function checkedText({ complete, gaps, flawed, idle, exposure_ev, moved_percent }: LogEntry): string {
  if (complete === null) return 'Not checked.'
  const faults = [
    gaps > 0 && `${gaps} ${gaps === 1 ? 'gap' : 'gaps'}`,
    flawed > 0 && `${flawed} flawed`,
    idle > 0 && `${idle} that added nothing`,
    moved_percent !== null && moved_percent >= 1 && `${significant(moved_percent, 2)} % of the picture moved`,
    exposure_ev !== null && exposure_ev >= 0.1 && `exposure strayed by ${significant(exposure_ev, 1)} EV`,
  ].filter(Boolean)
  const ends = complete ? 'Complete' : gaps > 0 ? 'Not complete' : 'An end was not reached'
  return faults.length > 0 ? `${ends}: ${faults.join(', ')}.` : `${ends}.`
}

function neededText(entry: LogEntry): string {
  const { needed, used } = entry
  if (!needed) return ''
  if (needed.frames >= used) return `All ${used} were needed.`
  const overlap = neededOverlap(entry)
  if (overlap === null) return `${frames(needed.frames)} would have done.`
  const than = overlap < 0 ? 'without any overlap' : `with ${percent(overlap)} overlap instead of ${percent(entry.planned!.overlap)}`
  return `${frames(needed.frames)} would have done, ${than}.`
}

function madeText({ renders, style, delivered, bytes }: LogEntry): string {
  const made = renders === 0 ? 'Not fused' : renders === 1 ? `One render, ${style}` : `${renders} renders, the newest ${style}`
  const out = delivered === 0 ? '' : delivered === 1 ? ', delivered once' : `, delivered ${delivered} times`
  return `${made}${out}. ${storageText(bytes / 1e6)}.`
}
