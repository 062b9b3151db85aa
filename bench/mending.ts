import { execFileSync, spawnSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import sharp from 'sharp'
import { randomStream } from '@/core/simulate'

/**
 * Edits on a large picture beside decoding the frames they paint from: `npm run bench:mending -- 24 500`. Makes four frames of so many
 * megapixels and a picture of 16 bits, carries out the strokes, and prints what they take beside decoding the donors, and the peak of
 * memory. What reading the picture and writing it take is measured by a mend of one stroke and told apart.
 */
const [megapixels = '24', edits = '500'] = process.argv.slice(2)
const width = Math.round(Math.sqrt(Number(megapixels) * 1.5e6) / 6) * 6
const height = (width * 2) / 3
const ROUNDS = 7
const folder = path.resolve('dist/bench-mending')
const at = (...names: string[]) => path.join(folder, ...names)
mkdirSync(at('frames'), { recursive: true })
const names = ['f_0.jpg', 'f_1.jpg', 'f_2.jpg', 'f_3.jpg']

for (const [k, name] of names.entries()) {
  const noise = { type: 'gaussian', mean: 110 + 10 * k, sigma: 30 } as const
  await sharp({ create: { width: width / 3, height: Math.round(height / 3), channels: 3, background: '#808080', noise } })
    .resize(width, height, { fit: 'fill', kernel: 'lanczos3' })
    .jpeg({ quality: 92 })
    .toFile(at('frames', name))
}
await sharp(at('frames', names[1])).toColourspace('rgb16').tiff({ compression: 'deflate' }).toFile(at('result.tif'))
const motion = (k: number) => ({ scale: 1 + 0.002 * k, rotation_deg: 0.02 * k, dx_px: 1.3 * k, dy_px: -0.7 * k, gain_ev: 0.01 * k })
writeFileSync(
  at('report.json'),
  JSON.stringify({
    style: 'auto',
    settings: { bits: 16, register: true },
    reference: names[0],
    frames: names.map((file, k) => ({ file, share_percent: 25, ...motion(k) })),
    crop: { x: 0, y: 0, width, height },
    timings_s: {},
    peakMemory_MB: 0,
  }),
)

const random = randomStream(5)
const strokes = Array.from({ length: Number(edits) }, (_, k) => {
  const [x, y] = [random() * width, random() * height]
  const path = Array.from({ length: 12 }, (_step, n) => [x + 14 * n * (random() - 0.3), y + 14 * n * (random() - 0.5)])
  return { id: `${k}`, kind: 'donor', frame: names[k % names.length], path, radius_px: 20 + 60 * random(), softness: 0.5, opacity: 1 }
})

/** Seconds that a mend takes in all, and the most memory that it had, in MB. */
function mend(some: object[]): { all_s: number; memory_MB: number } {
  writeFileSync(at('edits.json'), JSON.stringify({ base: 'fused', edits: some }))
  const args = [
    'mend',
    at('frames'),
    '--report',
    at('report.json'),
    '--base',
    at('result.tif'),
    '--edits',
    at('edits.json'),
    '--out',
    at('mended.tif'),
  ]
  const start = performance.now()
  const { status, stderr } = spawnSync('/usr/bin/time', ['-f', '%M', process.execPath, 'dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
  return { all_s: (performance.now() - start) / 1000, memory_MB: Number(stderr.trim().split('\n').at(-1)) / 1024 }
}

async function decoding_s(): Promise<number> {
  const start = performance.now()
  for (const name of names) await sharp(at('frames', name)).raw().toBuffer()
  return (performance.now() - start) / 1000
}

const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]

execFileSync(process.execPath, ['dist/nitidus.mjs', '--help'], { stdio: 'ignore' })
const { frame: _, ...stroke } = strokes[0]
// In turns, as the machine has its moods: the middle of each counts.
const rounds: { decoding: number; none: number; all: number; memory_MB: number }[] = []
for (let round = 0; round < ROUNDS; round++) {
  const decoding = await decoding_s()
  const none = mend([{ ...stroke, kind: 'original' }])
  const all = mend(strokes)
  rounds.push({ decoding, none: none.all_s, all: all.all_s, memory_MB: all.memory_MB })
}
const [decoding, none, all] = (['decoding', 'none', 'all'] as const).map((what) => middle(rounds.map((round) => round[what])))
const beside = middle(rounds.map((round) => round.all - round.none))
const times = middle(rounds.map((round) => (round.all - round.none) / round.decoding))
console.log(
  `${width} × ${height}, the middle of ${ROUNDS} rounds: decoding ${names.length} donors ${decoding.toFixed(2)} s; reading and writing the picture ${none.toFixed(2)} s`,
)
console.log(
  `${edits} edits: ${all.toFixed(2)} s in all, ${beside.toFixed(2)} s beside that: ${times.toFixed(2)} × decoding; ${Math.max(...rounds.map(({ memory_MB }) => memory_MB)).toFixed(0)} MB`,
)
