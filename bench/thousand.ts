import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { gaussian, randomStream } from '@/core/simulate'
import type { FuseReport } from '@/schemas'

/**
 * A very long series: time and memory of a fuse of so many frames, beside a tenth of them. `npm run bench:thousand -- 1000 6`: frames and
 * megapixels. A slanted, textured plane: in each frame one strip is sharp, and blur grows away from it; drawn, not simulated.
 */
const [count, megapixels] = ['1000', '6'].map((usual, k) => Number(process.argv[2 + k] ?? usual))
const folder = path.resolve('dist/bench-thousand')
const width = 8 * Math.round(Math.sqrt(megapixels * 1.5e6) / 8)
const height = 8 * Math.round(width / 12)
const LEVELS = 12
/** Width of what one frame shows sharp, px. */
const strip_px = Math.max(6, (1.3 * width) / count)

rmSync(folder, { recursive: true, force: true })
mkdirSync(path.join(folder, 'frames'), { recursive: true })
const random = randomStream(5)
const noise = Buffer.from(Uint8Array.from({ length: width * height * 3 }, () => Math.max(0, Math.min(255, 128 + 60 * gaussian(random)))))
const raw = { raw: { width, height, channels: 3 as const } }
const levels = await Promise.all(
  Array.from({ length: LEVELS }, (_, k) =>
    sharp(noise, raw)
      .blur(0.6 + 0.7 * k)
      .raw()
      .toBuffer(),
  ),
)
for (let n = 0; n < count; n++) {
  const frame = Buffer.alloc(noise.length)
  const middle = (width * (n + 0.5)) / count
  const levelAt = (x: number) => Math.min(LEVELS - 1, Math.floor(Math.abs(x - middle) / strip_px))
  for (let from = 0, to = 0; from < width; from = to) {
    while (to < width && levelAt(to) === levelAt(from)) to++
    const level = levels[levelAt(from)]
    for (let row = 0; row < height * width; row += width) frame.set(level.subarray(3 * (row + from), 3 * (row + to)), 3 * (row + from))
  }
  await sharp(frame, raw)
    .jpeg({ quality: 90 })
    .toFile(path.join(folder, 'frames', `f_${String(n).padStart(4, '0')}.jpg`))
}
for (const some of [Math.ceil(count / 10), count]) {
  const names = Array.from({ length: some }, (_, k) => `f_${String(k).padStart(4, '0')}.jpg`)
  writeFileSync(path.join(folder, 'list.txt'), names.join('\n'))
  const report = path.join(folder, 'report.json')
  const out = path.join(folder, 'out.jpg')
  const started = Date.now()
  const { status, stderr } = spawnSync(
    '/usr/bin/time',
    [
      '-f',
      '%M',
      process.execPath,
      'dist/nitidus.mjs',
      'fuse',
      path.join(folder, 'frames'),
      '--frames-file',
      path.join(folder, 'list.txt'),
      '--out',
      out,
      '--report',
      report,
    ],
    { encoding: 'utf8' },
  )
  if (status !== 0) throw new Error(stderr)
  const { frames, timings_s } = JSON.parse(readFileSync(report, 'utf8')) as FuseReport
  const used = frames.filter(({ role }) => role === 'use').length
  const peak_MB = Number(stderr.trim().split('\n').at(-1)) / 1024
  console.log(
    `${some} frames of ${((width * height) / 1e6).toFixed(1)} MP: ${((Date.now() - started) / 1000).toFixed(0)} s (${JSON.stringify(timings_s)}), ${peak_MB.toFixed(0)} MB, ${used} used`,
  )
}
rmSync(folder, { recursive: true, force: true })
