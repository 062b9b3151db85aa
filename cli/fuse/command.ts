import path from 'node:path'
import { parseArgs } from 'node:util'
import { writeWhole } from '@/codec'
import { most_px } from '@/core/raster'
import { gain_ev } from '@/core/register'
import { check, fuseSettingsSchema, InputError, type FuseSettings } from '@/schemas'
import { progressTo } from '../progress'
import { depthScale, readPositions } from './depth'
import { fuseSeries, type FusedSeries } from './fuseSeries'
import { writeAll, type Outputs } from './outputs'
import { openSeries, type Series } from './series'
import { withTeam } from './team'

const USAGE =
  'Usage: nitidus fuse DIR --out result.(tif|png|jpg) [--style auto|lace|terrain|mellow] [--reference N] [--bits 8|16] [--report FILE] [--source-map FILE] [--depth FILE] [--confidence FILE] [--relief FILE.(ply|obj)] [--so-far DIR] [--positions FILE] [--pixel-mm N] [--crop common|none] [--frames a.jpg,b.jpg,…] [--no-register] [--local-warp whereMoved|always|never] [--bends FILE] [--progress]'

/** `nitidus fuse`: registers and fuses the frames of a folder; `--frames` names the ones to use, in focus order. */
export async function fuse(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      style: { type: 'string' },
      reference: { type: 'string' },
      bits: { type: 'string' },
      report: { type: 'string' },
      'source-map': { type: 'string' },
      confidence: { type: 'string' },
      relief: { type: 'string' },
      'so-far': { type: 'string' },
      positions: { type: 'string' },
      'pixel-mm': { type: 'string' },
      depth: { type: 'string' },
      frames: { type: 'string' },
      crop: { type: 'string' },
      'no-register': { type: 'boolean' },
      'local-warp': { type: 'string' },
      bends: { type: 'string' },
      progress: { type: 'boolean' },
    },
  })
  if (positionals.length !== 1 || !values.out) throw new InputError(USAGE)
  if (!/\.(tiff?|png|jpe?g)$/i.test(values.out)) throw new InputError('The result must end in .tif, .png or .jpg.')
  const settings = check<FuseSettings>(fuseSettingsSchema, {
    style: values.style,
    reference: values.reference,
    bits: values.bits ? Number(values.bits) : undefined,
    crop: values.crop,
    register: !values['no-register'],
    localWarp: values['local-warp'],
  })
  if (values.relief && !/\.(ply|obj)$/i.test(values.relief)) throw new InputError('The relief must end in .ply or .obj.')
  const pixel_mm = values['pixel-mm'] === undefined ? undefined : Number(values['pixel-mm'])
  if (pixel_mm !== undefined && !(pixel_mm > 0)) throw new InputError('--pixel-mm is the size of a pixel in the subject, in mm, above 0.')
  const progress = progressTo(values.progress ? process.stderr : undefined)
  const { series, positions, fused } = await withTeam(async (gathering) => {
    const series = await openSeries(positionals[0], values.frames?.split(','))
    const positions = values.positions ? await readPositions(values.positions, series.files) : undefined
    const { kernels } = await gathering
    const fused = await fuseSeries(series, settings, progress, kernels, values['so-far'])
    progress({ stage: 'encode', frame: series.files.length, of: series.files.length, soFar: fused.soFar })
    await fused.stopwatch.time('encode', () => writeAll(values as Outputs, fused, series, { bits: settings.bits, positions, pixel_mm }))
    return { series, positions, fused }
  })
  const report = JSON.stringify(reportOf(series, settings, fused, positions), null, 2)
  for (const k of fused.registration.lost) console.error(`${path.basename(series.files[k])} cannot be registered with the others and was left out.`)
  if (values.report) await writeWhole(values.report, report)
  progress({ stage: 'done', frame: series.files.length, of: series.files.length })
}

function reportOf({ files }: Series, settings: FuseSettings, fused: FusedSeries, positions?: number[]) {
  const shares = shareOf(fused, files.length)
  const rounded = (value: number, digits: number) => Number(value.toFixed(digits))
  return {
    style: settings.style,
    settings,
    reference: path.basename(files[fused.reference]),
    frames: files.map((file, k) => {
      const { scale, rotation_rad, dx_px, dy_px } = fused.registration.motions[k]
      const bend = fused.registration.bends?.[k]
      return {
        file: path.basename(file),
        ...(fused.registration.lost.includes(k)
          ? { role: 'left out', reason: 'cannot be registered with the others: it shows something else, or nothing sharp enough' }
          : { role: 'use' }),
        scale: rounded(scale, 6),
        rotation_deg: rounded((rotation_rad * 180) / Math.PI, 5),
        dx_px: rounded(dx_px, 3),
        dy_px: rounded(dy_px, 3),
        gain_ev: rounded(gain_ev(fused.registration.gains[k]), 4),
        moved_percent: rounded(100 * fused.registration.stirred[k], 1),
        ...(bend && { bent_px: rounded(most_px(bend), 2) }),
        correlation: rounded(fused.registration.correlations[k], 3),
        share_percent: rounded(shares[k], 2),
      }
    }),
    crop: fused.crop,
    depth: depthScale(files.length, positions),
    timings_s: fused.stopwatch.timings_s(),
    peakMemory_MB: Math.round(process.resourceUsage().maxRSS / 1024),
  }
}

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
