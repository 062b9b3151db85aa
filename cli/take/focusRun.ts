import { forScreen, readFacts, writeMoving, type ScreenPicture } from '@/codec'
import { createMemory, WasmKernels } from '@/core/raster/kernels'
import { LIBRARY } from '../finish/runFinish'
import { Donors } from '../mend/donors'
import { seriesOf, type Taker } from './taker'

/** How wide it is where nothing else is asked for, how long each picture stays, and how many there are at most one way. */
const WIDTH_px = 800
const STAYS_ms = 90
const MOST = 60

/** The registered frames one after the other, from near to far and back, as a picture that moves. */
export const takeFocusRun: Taker = async (job, _, progress) => {
  const { frames, registration } = await seriesOf(job)
  const donors = new Donors(frames, registration, new WasmKernels(createMemory()))
  const { width, height } = registration.crop
  const across = Math.min(job.width_px ?? WIDTH_px, width)
  const size = { width: across, height: Math.max(1, Math.round((height * across) / width)) }
  const names = thinned(donors.names(), MOST)
  const pictures: ScreenPicture[] = []
  for (const [k, name] of names.entries()) {
    progress({ stage: 'take', frame: k + 1, of: names.length })
    const samples = await LIBRARY.resize(await donors.whole(name), { width, height }, size, 3)
    const { colour } = await readFacts(frames.find((frame) => frame.name === name)!.file, name)
    pictures.push(await forScreen({ samples, ...size }, colour.samplesIcc))
  }
  await writeMoving(job.out, [...pictures, ...pictures.slice(1, -1).reverse()], STAYS_ms)
}

/** So many at the most, evenly, with both ends. */
function thinned<T>(all: T[], most: number): T[] {
  if (all.length <= most) return all
  return Array.from({ length: most }, (_, k) => all[Math.round((k * (all.length - 1)) / (most - 1))])
}
