import { setImmediate } from 'node:timers/promises'
import { readFacts, readTakenWith, writeGrey, writePicture, writeWhole } from '@/codec'
import { bendsFile, type BendsFile } from '@/core/formats'
import { fullSize, type GreyMap } from '@/core/fuse'
import { depthOf, depthSamples, reliefFile } from './depth'
import type { FusedSeries } from './fuseSeries'
import type { FuseOutputs } from '@/schemas'
import type { Series } from '../series'

/** How the files are written. */
interface WriteHow {
  bits: 8 | 16
  positions?: number[]
  pixel_mm?: number
}

/** Writes everything that was asked for: maps are made while the picture and those before them are still being compressed. */
export async function writeAll(outputs: FuseOutputs, fused: FusedSeries, series: Series, how: WriteHow): Promise<void> {
  const ends = await Promise.allSettled([writeResult(outputs.out, fused, series, how.bits), writeMaps(outputs, fused, series, how)])
  // Both are waited for, so that neither leaves half a file behind when the other fails.
  for (const end of ends) if (end.status === 'rejected') throw end.reason
}

async function writeResult(out: string, fused: FusedSeries, { frames, facts }: Series, bits: 8 | 16): Promise<void> {
  const { file, name } = frames[fused.reference]
  const { exif, format } = await readFacts(file, name)
  const taken = (await readTakenWith(format === 'tiff' ? file : exif)) ?? {}
  await writePicture(out, fused, { bits: /\.jpe?g$/i.test(out) ? 8 : bits, crop: fused.crop, icc: facts.colour.samplesIcc, taken })
}

async function writeMaps(outputs: FuseOutputs, fused: FusedSeries, { frames }: Series, { positions, pixel_mm }: WriteHow): Promise<void> {
  const { crop, room } = fused
  const writing: Promise<void>[] = []
  /** Encoders run in threads of their own; this one is let go for a moment so that it hands them their work. */
  const write = async (file: string, map: GreyMap, bits: 8 | 16) => {
    const written = writeGrey(file, map, bits)
    // What goes wrong is reported when all is written; until then it must not end the process.
    written.catch(() => undefined)
    writing.push(written)
    await setImmediate()
  }
  try {
    const sourceBits = frames.length > 256 ? 16 : 8
    if (outputs.sourceMap) await write(outputs.sourceMap, fullSize(fused.source(), crop, sourceBits, [0, 2 ** sourceBits - 1], room), sourceBits)
    const depth = outputs.depth || outputs.relief ? depthOf(fused, frames.length, positions) : undefined
    if (outputs.depth) await write(outputs.depth, depthSamples(depth!, crop, room), 16)
    if (outputs.confidence) await write(outputs.confidence, fullSize(fused.confidence(), crop, 8, [0, 1], room), 8)
    if (outputs.relief) writing.push(reliefFile(outputs.relief, depth!, fused, pixel_mm).then((data) => writeWhole(outputs.relief!, data)))
  } finally {
    await Promise.allSettled(writing)
  }
  await Promise.all(writing)
}

/** How the frames were bent, by file. */
export function bendsOf({ registration }: FusedSeries, { frames }: Series): BendsFile {
  const bent = frames.flatMap(({ name }, k) => {
    const bend = registration.bends?.[k]
    return bend ? [[name, bend] as const] : []
  })
  return bendsFile(new Map(bent))
}
