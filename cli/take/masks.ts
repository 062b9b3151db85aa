import path from 'node:path'
import { readGrey, writeGrey } from '@/codec'
import { refusal } from '@/core/words'
import { writeZip } from '../zip'
import { seriesOf, type Taker } from './taker'

/** Which frame shows where: a map of their numbers, a white mask for each frame, and the names that the numbers stand for. */
export const takeMasks: Taker = async (job, scratch, progress) => {
  if (job.sourceMap === undefined) throw refusal('take.noSource')
  const { registration } = await seriesOf(job)
  const { width, height, data } = await readGrey(job.sourceMap)
  const used = registration.frames
  // Maps of up to 256 frames are written with 8 bits: read as 16, each number is 257 times what it was.
  const index = used.length > 256 ? data : data.map((value) => Math.round(value / 257))
  const digits = String(used.length).length
  const mask = async (k: number) => {
    progress({ stage: 'take', frame: k + 1, of: used.length })
    const made = path.join(scratch, `${k}.png`)
    await writeGrey(made, { width, height, data: Uint8Array.from(index, (frame) => (frame === k ? 255 : 0)) }, 8)
    return made
  }
  const list = used.map(({ file }, k) => ({ number: k, file, mask: maskName(k, file, digits) }))
  await writeZip(job.out, [
    { name: 'frames.json', bytes: Buffer.from(`${JSON.stringify(list, null, 2)}\n`), compress: true },
    { name: 'source-map.png', file: job.sourceMap },
    ...list.map(({ mask: name }, k) => ({ name, make: () => mask(k) })),
  ])
}

const maskName = (k: number, file: string, digits: number) => `masks/${String(k + 1).padStart(digits, '0')}_${path.parse(file).name}.png`
