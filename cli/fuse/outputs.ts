import { setImmediate } from 'node:timers/promises'
import path from 'node:path'
import { exifFields, readExif, readFacts, writeGrey, writePicture, writeWhole } from '@/codec'
import { bendsFile } from '@/core/formats'
import { fullSize, type GreyMap } from '@/core/fuse'
import { depthOf, depthSamples, reliefText } from './depth'
import type { FusedSeries } from './fuseSeries'
import type { Series } from './series'

/** Files that may be asked for; the picture always is. */
export interface Outputs {
  out: string
  'source-map'?: string
  depth?: string
  confidence?: string
  relief?: string
  bends?: string
}

interface Manner {
  bits: 8 | 16
  positions?: number[]
  pixel_mm?: number
}

/** Writes everything that was asked for: maps are made while the picture and those before them are still being compressed. */
export async function writeAll(outputs: Outputs, fused: FusedSeries, series: Series, manner: Manner): Promise<void> {
  const ends = await Promise.allSettled([writeResult(outputs.out, fused, series, manner.bits), writeMaps(outputs, fused, series, manner)])
  // Both are waited for, so that neither leaves half a file behind when the other fails.
  for (const end of ends) if (end.status === 'rejected') throw end.reason
}

async function writeResult(out: string, fused: FusedSeries, { files }: Series, bits: 8 | 16): Promise<void> {
  const { exif, icc } = await readFacts(files[fused.reference])
  const taken = readExif(exif)
  await writePicture(out, fused, { bits: /\.jpe?g$/i.test(out) ? 8 : bits, crop: fused.crop, icc, ...(taken && { exif: exifFields(taken) }) })
}

async function writeMaps(outputs: Outputs, fused: FusedSeries, { files }: Series, { positions, pixel_mm }: Manner): Promise<void> {
  const { crop, room } = fused
  const writing: Promise<void>[] = []
  /** Encoders run in threads of their own; this one is let go for a moment so that it hands them their work. */
  const write = async (file: string, map: GreyMap, bits: 8 | 16) => {
    writing.push(writeGrey(file, map, bits))
    await setImmediate()
  }
  try {
    const sourceBits = files.length > 256 ? 16 : 8
    if (outputs['source-map'])
      await write(outputs['source-map'], fullSize(fused.source(), crop, sourceBits, [0, 2 ** sourceBits - 1], room), sourceBits)
    const depth = outputs.depth || outputs.relief ? depthOf(fused, files.length, positions) : undefined
    if (outputs.depth) await write(outputs.depth, depthSamples(depth!, crop, room), 16)
    if (outputs.confidence) await write(outputs.confidence, fullSize(fused.confidence(), crop, 8, [0, 1], room), 8)
    if (outputs.relief) writing.push(writeWhole(outputs.relief, reliefText(outputs.relief, depth!, fused, pixel_mm)))
  } finally {
    await Promise.allSettled(writing)
  }
  await Promise.all(writing)
  if (outputs.bends) {
    const bent = files.flatMap((file, k) => {
      const bend = fused.registration.bends?.[k]
      return bend ? [[path.basename(file), bend] as const] : []
    })
    await writeWhole(outputs.bends, JSON.stringify(bendsFile(new Map(bent))))
  }
}
