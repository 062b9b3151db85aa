import { readFile } from 'node:fs/promises'
import { liesIn, type FoundDust } from '@/core/dust'
import { profileName } from '@/core/formats'
import { most_px } from '@/core/raster'
import { gain_ev } from '@/core/register'
import { say, type Sentence } from '@/core/words'
import type { MovedPart } from '@/core/moving'
import { RECORD_VERSION, registrationOf, type FrameFile, type FuseJob, type FuseReport, type ReportFrame, type ReportPart } from '@/schemas'
import { mergedFile, writeWhole, type Merged } from '@/codec'
import type { Progress } from '../progress'
import { openSeries, type Series } from '../series'
import { depthScale } from './depth'
import { fuseSeries, type FusedSeries } from './fuseSeries'
import { bendsOf, writeAll } from './outputs'
import { withTeam } from './team'

/** The job of kind `fuse`: every output asked for. Answers a sentence for each frame that was left out. */
export async function runFuse({ frames, settings, outputs, positions_mm, pixel_mm }: FuseJob, progress: Progress): Promise<Sentence[]> {
  const count = frames.length
  const { series, fused } = await withTeam(async (gathering) => {
    const series = await openSeries(frames)
    const { kernels } = await gathering
    const fused = await fuseSeries(series, settings, progress, kernels, outputs)
    progress({ stage: 'encode', frame: count, of: count, soFar: fused.soFar })
    await fused.stopwatch.time('encode', () => writeAll(outputs, fused, series, { bits: settings.bits, positions: positions_mm, pixel_mm }))
    return { series, fused }
  })
  const report = reportOf(series, { settings, positions_mm }, fused, await Promise.all(frames.map(capturesOf)))
  const bends = bendsOf(fused, series)
  if (outputs.bends) await writeWhole(outputs.bends, JSON.stringify(bends))
  if (outputs.registration) await writeWhole(outputs.registration, JSON.stringify(registrationOf(report, bends)))
  if (outputs.report) await writeWhole(outputs.report, JSON.stringify(report, null, 2))
  progress({ stage: 'done', frame: count, of: count })
  return [
    ...fused.registration.lost.map((k) => say('series.lost', { name: frames[k].name })),
    ...report.frames.flatMap(({ file, captures }) =>
      captures && captures.used < captures.taken ? [say('captures.moved', { name: file, moved_percent: captures.moved_percent })] : [],
    ),
  ]
}

/** What became of the captures of a frame when it was developed. */
async function capturesOf({ file, raw }: FrameFile): Promise<ReportFrame['captures']> {
  const kept = raw?.captures && (await readFile(mergedFile(file), 'utf8').catch(() => undefined))
  if (!kept) return undefined
  const { captures, used, moved_percent } = JSON.parse(kept) as Merged
  return { taken: captures, used, moved_percent }
}

function reportOf(
  { frames, facts }: Series,
  { settings, positions_mm }: Pick<FuseJob, 'settings' | 'positions_mm'>,
  fused: FusedSeries,
  captures: ReportFrame['captures'][],
): FuseReport {
  const shares = shareOf(fused, frames.length)
  const { samplesIcc, converted } = facts.colour
  return {
    version: RECORD_VERSION,
    style: settings.style,
    settings,
    reference: frames[fused.reference].name,
    frames: frames.map(({ uid, name }, k) => ({
      ...(uid !== undefined && { uid }),
      file: name,
      ...frameReport(fused, k, shares[k]),
      ...(captures[k] && { captures: captures[k] }),
    })),
    crop: fused.crop,
    colour: { profile: samplesIcc ? profileName(samplesIcc) : null, converted },
    ...(fused.dust && { dust: specksIn(fused.dust, facts.width) }),
    ...(fused.moved && {
      parts: fused.moved.parts.map((part) =>
        partReport(
          part,
          frames.map(({ name }) => name),
        ),
      ),
    }),
    depth: depthScale(frames.length, positions_mm),
    timings_s: fused.stopwatch.timings_s(),
    peakMemory_MB: Math.round(process.resourceUsage().maxRSS / 1024),
  }
}

/** In px of the frames. */
function specksIn(found: FoundDust, width_px: number): NonNullable<FuseReport['dust']> {
  const { scale, offset_px } = liesIn(found, width_px)
  const inFrame = (at: number) => rounded(at * scale + offset_px, 1)
  return found.specks.map(({ x, y, radius_px, darkness }) => ({
    x: inFrame(x),
    y: inFrame(y),
    radius_px: rounded(radius_px * scale, 1),
    darkness: rounded(darkness, 3),
  }))
}

/** A frame with less of the sharpest one's detail than this is no choice. */
const NEARLY = 0.3
const MOST_OTHERS = 8

function partReport({ box, share, inside, frame, sharpness }: MovedPart, names: string[]): ReportPart {
  const others = [...sharpness.keys()].filter((k) => k !== frame && sharpness[k] >= NEARLY).sort((a, b) => sharpness[b] - sharpness[a])
  return {
    ...box,
    area_percent: rounded(100 * share, 2),
    inside,
    frame: names[frame],
    others: others.slice(0, MOST_OTHERS).map((k) => ({ frame: names[k], detail_percent: Math.round(100 * sharpness[k]) })),
  }
}

const LEFT_OUT = {
  role: 'left out',
  reasonCode: 'not-registered',
  reason: 'cannot be registered with the others: it shows something else, or too little that is sharp',
} as const

function frameReport({ registration }: FusedSeries, k: number, share: number): Omit<ReportFrame, 'file' | 'id'> {
  const { scale, rotation_rad, dx_px, dy_px } = registration.motions[k]
  const bend = registration.bends?.[k]
  const gap = registration.scaleGaps[k]
  return {
    ...(registration.lost.includes(k) ? LEFT_OUT : { role: 'use' as const }),
    scale: rounded(scale, 6),
    rotation_deg: rounded((rotation_rad * 180) / Math.PI, 5),
    dx_px: rounded(dx_px, 3),
    dy_px: rounded(dy_px, 3),
    gain_ev: rounded(gain_ev(registration.gains[k]), 4),
    moved_percent: rounded(100 * registration.stirred[k], 1),
    ...(gap !== undefined && { scale_gap: rounded(gap, 6) }),
    ...(bend && { bent_px: rounded(most_px(bend), 2) }),
    correlation: rounded(registration.correlations[k], 3),
    share_percent: rounded(share, 2),
  }
}

const rounded = (value: number, digits: number) => Number(value.toFixed(digits))

/** How much of the delivered picture each frame shows, in percent. */
function shareOf({ source: sourceOf, crop }: FusedSeries, count: number): number[] {
  const source = sourceOf()
  const counts = new Array<number>(count).fill(0)
  let all = 0
  // Maps have half the size.
  for (let y = crop.y >> 1; y < (crop.y + crop.height) >> 1; y++) {
    for (let x = crop.x >> 1; x < (crop.x + crop.width) >> 1; x++, all++) counts[source.data[y * source.width + x]]++
  }
  return counts.map((n) => (100 * n) / Math.max(1, all))
}
