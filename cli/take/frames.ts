import path from 'node:path'
import { readFacts, readTakenWith, writePicture } from '@/codec'
import { createMemory, WasmKernels } from '@/core/raster/kernels'
import { Donors } from '../mend/donors'
import { writeZip } from '../zip'
import { seriesOf, type Taker } from './taker'

/** Every registered frame as a TIFF of 16 bits, cut and as bright as the picture; one is in memory at a time. */
export const takeFrames: Taker = async (job, scratch, progress) => {
  const { frames, registration } = await seriesOf(job)
  const donors = new Donors(frames, registration, new WasmKernels(createMemory()))
  const { width, height } = registration.crop
  const names = donors.names()
  const make = async (name: string, k: number) => {
    progress({ stage: 'take', frame: k + 1, of: names.length })
    const { file } = frames.find((frame) => frame.name === name)!
    const { colour, exif, format } = await readFacts(file, name)
    const taken = (await readTakenWith(format === 'tiff' ? file : exif)) ?? {}
    const made = path.join(scratch, `${k}.tif`)
    const samples = await donors.whole(name)
    await writePicture(made, { samples, width, height }, { bits: 16, icc: colour.samplesIcc, taken, delivered: true })
    return made
  }
  const digits = String(names.length).length
  await writeZip(
    job.out,
    names.map((name, k) => ({ name: `${String(k + 1).padStart(digits, '0')}_${path.parse(name).name}.tif`, make: () => make(name, k) })),
  )
}
