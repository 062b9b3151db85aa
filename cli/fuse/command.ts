import path from 'node:path'
import { parseArgs } from 'node:util'
import { exifFields, readExif, readFacts, writeGrey, writePicture, writeWhole } from '@/codec'
import { cropPlane } from '@/core/raster'
import { check, fuseSettingsSchema, InputError, type FuseSettings } from '@/schemas'
import { progressTo } from '../progress'
import { fuseSeries, gain_ev, type FusedSeries } from './fuseSeries'
import { gatherTeam } from './team'
import { openSeries, type Series } from './series'

const USAGE =
  'Usage: nitidus fuse DIR --out result.(tif|png|jpg) [--style auto|lace|terrain|mellow] [--reference N] [--bits 8|16] [--report FILE] [--source-map FILE] [--depth FILE] [--crop common|none] [--frames a.jpg,b.jpg,…] [--no-register] [--progress]'

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
      depth: { type: 'string' },
      frames: { type: 'string' },
      crop: { type: 'string' },
      'no-register': { type: 'boolean' },
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
  })
  const progress = progressTo(values.progress ? process.stderr : undefined)
  const series = await openSeries(positionals[0], values.frames?.split(','))
  const team = await gatherTeam()
  let fused: FusedSeries
  try {
    fused = await fuseSeries(series, settings, progress, team.kernels)
    progress({ stage: 'encode', frame: series.files.length, of: series.files.length })
    await fused.stopwatch.time('encode', async () => {
      const bits = /\.jpe?g$/i.test(values.out!) ? 8 : settings.bits
      const taken = readExif((await readFacts(series.files[fused.reference])).exif)
      await writePicture(values.out!, fused.picture, { bits, crop: fused.crop, ...(taken && { exif: exifFields(taken) }) })
      if (values['source-map']) await writeGrey(values['source-map'], cropPlane(fused.source, fused.crop), series.files.length > 256 ? 16 : 8)
      if (values.depth) await writeGrey(values.depth, depthSamples(fused, series.files.length), 16)
    })
  } finally {
    await team.dismiss()
  }
  const report = JSON.stringify(reportOf(series, settings, fused), null, 2)
  for (const k of fused.registration.lost) console.error(`${path.basename(series.files[k])} cannot be registered with the others and was left out.`)
  if (values.report) await writeWhole(values.report, report)
  progress({ stage: 'done', frame: series.files.length, of: series.files.length })
}

/** Focus order spread over the 16 bits: 0 is the first frame, 65535 the last. */
function depthSamples({ depth, crop }: FusedSeries, count: number) {
  const plane = cropPlane(depth, crop)
  const unit = 65535 / Math.max(1, count - 1)
  for (let i = 0; i < plane.data.length; i++) plane.data[i] *= unit
  return plane
}

function reportOf({ files }: Series, settings: FuseSettings, fused: FusedSeries) {
  const shares = shareOf(fused, files.length)
  const rounded = (value: number, digits: number) => Number(value.toFixed(digits))
  return {
    style: settings.style,
    settings,
    reference: path.basename(files[fused.reference]),
    frames: files.map((file, k) => {
      const { scale, rotation_rad, dx_px, dy_px } = fused.registration.motions[k]
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
        correlation: rounded(fused.registration.correlations[k], 3),
        share_percent: rounded(shares[k], 2),
      }
    }),
    crop: fused.crop,
    timings_s: fused.stopwatch.timings_s(),
    peakMemory_MB: Math.round(process.resourceUsage().maxRSS / 1024),
  }
}

/** How much of the delivered picture each frame shows, in percent. */
function shareOf({ source, crop }: FusedSeries, count: number): number[] {
  const counts = new Array<number>(count).fill(0)
  const { data } = cropPlane(source, crop)
  for (const index of data) counts[index]++
  return counts.map((n) => (100 * n) / data.length)
}
