import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'

/**
 * The engine against decoding the same files: `npm run bench:engine -- 24 8 64` makes frames of 24 megapixels, fuses series
 * of 8 and of 64 of them, and prints (register + fuse) ÷ decode and the peak of memory.
 */
const [megapixels = '24', ...counts] = process.argv.slice(2)
const width = Math.round(Math.sqrt(Number(megapixels) * 1.5e6) / 6) * 6
const height = (width * 2) / 3
const folder = path.resolve('dist/bench-engine')
const SOURCES = 8

await makeSources()
for (const count of counts.length > 0 ? counts.map(Number) : [SOURCES]) await measure(count)

/** Frames of the simulator, brought to the size asked for, with fine noise so that they are as hard to decode as real ones. */
async function makeSources(): Promise<void> {
  const small = path.join(folder, 'small')
  if (!existsSync(path.join(small, 'truth.json'))) {
    mkdirSync(small, { recursive: true })
    const scene = {
      scene: 'fossil',
      seed: 7,
      camera: { width_px: 1200, height_px: 800, mover: 'ring', fNumber: 5.6 },
      positions_mm: Array.from({ length: SOURCES }, (_, k) => k * 1.2),
    }
    writeFileSync(path.join(folder, 'scene.json'), JSON.stringify(scene))
    execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', path.join(folder, 'scene.json'), '--out', small])
  }
  const large = path.join(folder, `${megapixels}`)
  if (existsSync(path.join(large, source(SOURCES - 1)))) return
  mkdirSync(large, { recursive: true })
  const noise = await sharp({ create: { width, height, channels: 3, background: '#808080', noise: { type: 'gaussian', mean: 128, sigma: 5 } } })
    .png({ compressionLevel: 1 })
    .toBuffer()
  for (let k = 0; k < SOURCES; k++) {
    await sharp(path.join(small, `frame_${String(k + 1).padStart(3, '0')}.jpg`))
      .resize(width, height, { kernel: 'lanczos3' })
      .composite([{ input: noise, blend: 'soft-light' }])
      .jpeg({ quality: 92 })
      .toFile(path.join(large, source(k)))
  }
}

async function measure(count: number): Promise<void> {
  const series = path.join(folder, `${megapixels}-${count}`)
  rmSync(series, { recursive: true, force: true })
  mkdirSync(series)
  // There and back through the sources, so that neighbours are neighbours however many frames there are.
  for (let k = 0; k < count; k++) {
    const turn = k % (2 * SOURCES - 2)
    const from = turn < SOURCES ? turn : 2 * SOURCES - 2 - turn
    symlinkSync(path.join(folder, megapixels, source(from)), path.join(series, `f_${String(k).padStart(3, '0')}.jpg`))
  }
  const before_s = await decoding_s(count)
  const report = path.join(folder, 'report.json')
  // Everything that the application asks for.
  const outputs = { out: 'result.tif', 'source-map': 'source.png', depth: 'depth.png', confidence: 'confidence.png', relief: 'relief.ply' }
  const files = Object.entries(outputs).flatMap(([flag, file]) => [`--${flag}`, path.join(folder, file)])
  execFileSync('npm', ['run', '-s', 'nitidus', '--', 'fuse', series, ...files, '--report', report], { stdio: ['ignore', 'ignore', 'inherit'] })
  const { timings_s, peakMemory_MB } = JSON.parse(readFileSync(report, 'utf8'))
  // On a machine that does other things too it is no use to look at one moment only.
  const decode_s = (before_s + (await decoding_s(count))) / 2
  const ratio = (timings_s.register + timings_s.fuse) / decode_s
  console.log(
    `${count} frames of ${megapixels} MP: register ${timings_s.register} s, fuse ${timings_s.fuse} s, decoding alone ${decode_s.toFixed(2)} s; ratio ${ratio.toFixed(2)}; ` +
      `encoding ${timings_s.encode} s, in all ${timings_s.total} s; peak ${peakMemory_MB} MB`,
  )
}

/** How long decoding so many frames takes, of which all sources are decoded once. */
async function decoding_s(count: number): Promise<number> {
  const start = performance.now()
  for (let k = 0; k < SOURCES; k++)
    await sharp(path.join(folder, megapixels, source(k)))
      .raw()
      .toBuffer()
  return ((performance.now() - start) / 1000) * (count / SOURCES)
}

function source(k: number): string {
  return `source_${k}.jpg`
}
