import { createReadStream, createWriteStream, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import sharp from 'sharp'
import PQueue from 'p-queue'
import { FOSSIL } from '@/demo/scenario'
import { openContext, readEnvironment } from '@/server'

/**
 * How fast a card comes in, beside decoding its files alone, in the same run: `npm run bench:importing -- 300 24`, files and megapixels.
 * Each file is other bytes; a dozen pictures serve for all.
 */
const [count, megapixels] = ['300', '24'].map((usual, k) => Number(process.argv[2 + k] ?? usual))
const folder = mkdtempSync(path.join(tmpdir(), 'importing-'))
const card = path.join(folder, 'import', 'card')
mkdirSync(card, { recursive: true })
const width = Math.round(Math.sqrt(megapixels * 1.5e6))
const height = Math.round(width / 1.5)
const pictures = await Promise.all(
  Array.from({ length: 12 }, async (_, k) => {
    const small = Buffer.from(
      Uint8Array.from({ length: 3 * 600 * 400 }, (__, i) => 128 + 90 * Math.sin(i * (0.013 + 0.002 * k)) + 30 * Math.random()),
    )
    return sharp(small, { raw: { width: 600, height: 400, channels: 3 } })
      .resize(width, height)
      .jpeg({ quality: 92 })
      .toBuffer()
  }),
)
const files = Array.from({ length: count }, (_, k) => path.join(card, `frame_${String(k + 1).padStart(4, '0')}.jpg`))
// Behind the end of a JPEG anything may stand.
files.forEach((file, k) => writeFileSync(file, Buffer.concat([pictures[k % pictures.length], Buffer.from(String(k))])))
const MB = files.reduce((sum, file) => sum + readFileSync(file).length, 0) / 1e6

/** Decoding alone, by the bare decoder: as many files at once as come in at once. */
async function decoding(of: string[]): Promise<number> {
  const queue = new PQueue({ concurrency: 3 })
  const started = Date.now()
  await queue.addAll(of.map((file) => () => sharp(file).raw().toBuffer()))
  return (Date.now() - started) / 1000
}

/** The disk alone: each file copied and flushed, as many at once. */
async function copying(of: string[]): Promise<number> {
  const queue = new PQueue({ concurrency: 3 })
  const to = mkdtempSync(path.join(folder, 'copies-'))
  const started = Date.now()
  const copy = (file: string) => pipeline(createReadStream(file), createWriteStream(path.join(to, path.basename(file)), { flush: true }))
  await queue.addAll(of.map((file) => () => copy(file)))
  return (Date.now() - started) / 1000
}

const context = await openContext(readEnvironment({ ...process.env, NITIDUS_DATA: folder }))
try {
  const some = files.slice(0, Math.min(count, 300))
  const decoded_s = (count / some.length) * (await decoding(some))
  const copied_s = (count / some.length) * (await copying(some))
  const shoot = await context.shoots.create(FOSSIL)
  const memory_MB: number[] = []
  const started = Date.now()
  await context.importing.begin(shoot, 'card')
  let told = 0
  while (!context.importing.of(shoot)!.ended) {
    await new Promise((done) => setTimeout(done, 250))
    const { taken, pace } = context.importing.of(shoot)!
    if (taken < told + count / 6) continue
    told = taken
    memory_MB.push(process.memoryUsage().rss / 1e6)
    console.log(
      `${taken} of ${count}: ${pace?.rate_MBps.toFixed(0)} MB a second, ${pace?.left_s.toFixed(0)} s left, ${memory_MB.at(-1)!.toFixed(0)} MB`,
    )
  }
  const { taken, ended } = context.importing.of(shoot)!
  const took_s = (Date.now() - started) / 1000
  console.log(
    `${ended!.text} ${MB.toFixed(0)} MB in ${took_s.toFixed(1)} s; decoding alone takes ${decoded_s.toFixed(1)} s: ${((100 * decoded_s) / took_s).toFixed(0)} % of its speed; copying them ${copied_s.toFixed(1)} s`,
  )
  if (taken !== count) throw new Error('not all came')
  await context.jobs.idle()
} finally {
  await context.close()
  rmSync(folder, { recursive: true })
}
