import { readFacts, readSamples, writePicture } from '@/codec'
import type { DeliverJob } from '@/schemas'
import type { Progress } from './progress'

/** The job of kind `deliver`: a kept picture in another format, sample by sample as it is, with its profile and EXIF. */
export async function runDeliver({ picture, out, bits, taken }: DeliverJob, progress: Progress): Promise<void> {
  progress({ stage: 'read', frame: 0, of: 2 })
  const { colour } = await readFacts(picture)
  const { samples, width, height } = await readSamples(picture)
  progress({ stage: 'write', frame: 1, of: 2 })
  await writePicture(out, { samples, width, height }, { bits, icc: colour.samplesIcc, taken, delivered: true })
  progress({ stage: 'done', frame: 2, of: 2 })
}
