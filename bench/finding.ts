import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { readSamples, writePicture } from '@/codec'
import type { Place } from '@/core/inspect'
import { strokeOver } from '@/core/mend'
import { createPicture, overlap, fromInterleaved, type Picture, type Rectangle } from '@/core/raster'
import { randomStream, SimulatedSeries, specksOf, type SeriesRequest } from '@/core/simulate'

/**
 * How well `inspect` finds what went wrong: simulated series with one planted fault each, beside clean ones. Prints how many faults
 * are among the first ten places of their picture, how many places of clean series are above a severity of 0.5, and what accepting
 * every suggestion does to PSNR, on the whole and in the worst tiles. `npm run bench:finding -- 60`.
 */
const [runs = '60', first = '0', only] = process.argv.slice(2)
const [WIDTH, HEIGHT] = [640, 426]

interface Setup {
  scene: string
  magnification: number
  stride_mm: number
  fNumber: number
}
const SETUPS: Setup[] = [
  { scene: 'fossil', magnification: 1, stride_mm: 0.85, fNumber: 5.6 },
  { scene: 'nib', magnification: 0.5, stride_mm: 2.8, fNumber: 5.6 },
  { scene: 'bristles', magnification: 1, stride_mm: 0.75, fNumber: 4 },
  { scene: 'bowl', magnification: 0.5, stride_mm: 2.6, fNumber: 5.6 },
]
const COUNT = 14
const KINDS = ['clean', 'moved', 'specks', 'missing', 'short', 'hair'] as const
type Kind = (typeof KINDS)[number]

/** A planted fault: what is done to the frames, and where it must be found. */
interface Planted {
  frames: { picture: Picture; name: string }[]
  /** What a place must be and touch; several are all to be found. */
  targets: { kinds: Place['kind'][]; at?: Rectangle }[]
}

function plant(kind: Kind, series: SimulatedSeries, seed: number): Planted {
  const random = randomStream(seed * 31 + 7)
  const frames = Array.from({ length: series.count }, (_, k) => ({
    picture: series.shoot(k).picture,
    motion: series.shoot(k).motion,
    name: `f_${String(k).padStart(2, '0')}.jpg`,
  }))
  if (kind === 'moved') {
    const { at, from, to, shift } = movedPart(series, random)
    for (let k = from; k <= to; k++) frames[k].picture = shifted(frames[k].picture, at, shift)
    return { frames, targets: [{ kinds: ['ghost', 'soft', 'crossing'], at }] }
  }
  if (kind === 'hair') return hair(frames, series, random)
  if (kind === 'missing') {
    const gap = 4 + Math.floor(random() * (series.count - 9))
    return { frames: frames.filter((_, k) => k < gap || k > gap + 1), targets: [{ kinds: ['neverSharp'] }] }
  }
  if (kind === 'short') return { frames: frames.slice(0, -6), targets: [{ kinds: ['neverSharp'] }] }
  return { frames, targets: [] }
}

/** A part of the subject near the depth of some frames, with detail, and where it goes in two to five of them. */
function movedPart(series: SimulatedSeries, random: () => number) {
  const depth = series.truthDepth_mm()
  const truth = series.truth()
  const positions = Array.from({ length: series.count }, (_, k) => series.shoot(k).position_mm)
  for (let attempt = 0; ; attempt++) {
    const [w, h] = [50 + Math.floor(random() * 30), 40 + Math.floor(random() * 24)]
    const at = { x: 60 + Math.floor(random() * (WIDTH - 120 - w)), y: 50 + Math.floor(random() * (HEIGHT - 100 - h)), width: w, height: h }
    const middle = depth.data[(at.y + (h >> 1)) * WIDTH + at.x + (w >> 1)]
    const focus = positions.reduce((best, position, k) => (Math.abs(position - middle) < Math.abs(positions[best] - middle) ? k : best), 0)
    const contrast = deviation(truth, at)
    if ((contrast < 0.05 || focus < 1 || focus > series.count - 2) && attempt < 400) continue
    const length = 2 + Math.floor(random() * 4)
    // It moves while it is in focus, and lies as before in at least one frame that shows it sharp.
    const from = Math.max(0, random() < 0.5 ? focus : focus - length + 1)
    const angle = random() * 2 * Math.PI
    const far = 5 + random() * 5
    return { at, from, to: Math.min(series.count - 1, from + length - 1), shift: [far * Math.cos(angle), far * Math.sin(angle)] as [number, number] }
  }
}

function deviation({ planes: [, green] }: Picture, { x, y, width, height }: Rectangle): number {
  let [sum, squares] = [0, 0]
  for (let v = y; v < y + height; v++)
    for (let u = x; u < x + width; u++) {
      sum += green.data[v * WIDTH + u]
      squares += green.data[v * WIDTH + u] ** 2
    }
  const count = width * height
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2))
}

/** An oval part of a picture moved, softly at its border. */
function shifted(picture: Picture, { x, y, width, height }: Rectangle, [dx, dy]: [number, number]): Picture {
  const out = createPicture(WIDTH, HEIGHT)
  picture.planes.forEach(({ data }, c) => {
    out.planes[c].data.set(data)
    for (let v = Math.max(0, y - 12); v < Math.min(HEIGHT, y + height + 12); v++)
      for (let u = Math.max(0, x - 12); u < Math.min(WIDTH, x + width + 12); u++) {
        const r = Math.hypot((u - x - width / 2) / (width / 2), (v - y - height / 2) / (height / 2))
        const share = Math.min(1, Math.max(0, (1.15 - r) / 0.3))
        if (share > 0) out.planes[c].data[v * WIDTH + u] = sampled(data, u - share * dx, v - share * dy)
      }
  })
  return out
}

function sampled(data: Float32Array, x: number, y: number): number {
  const [x0, y0] = [Math.min(WIDTH - 2, Math.max(0, Math.floor(x))), Math.min(HEIGHT - 2, Math.max(0, Math.floor(y)))]
  const [tx, ty] = [x - x0, y - y0]
  const at = y0 * WIDTH + x0
  return (data[at] * (1 - tx) + data[at + 1] * tx) * (1 - ty) + (data[at + WIDTH] * (1 - tx) + data[at + WIDTH + 1] * tx) * ty
}

/** A dark hair in front of everything, sharp in the second frame and ever wider and fainter behind it, over texture. */
function hair(frames: { picture: Picture; name: string }[], series: SimulatedSeries, random: () => number): Planted {
  const truth = series.truth()
  let at: Rectangle
  let attempt = 0
  do at = { x: 60 + Math.floor(random() * (WIDTH - 260)), y: 60 + Math.floor(random() * (HEIGHT - 160)), width: 130, height: 40 }
  while (deviation(truth, at) < 0.04 && attempt++ < 300)
  const [rise, wide] = [random() * 30, 1.6 + random()]
  frames.forEach(({ picture }, k) => {
    const blur = 1.5 * Math.abs(k - 1)
    const sigma = Math.hypot(wide / 2, blur)
    const strength = (0.75 * (wide / 2)) / sigma
    for (let v = Math.max(0, at.y - 40); v < Math.min(HEIGHT, at.y + at.height + 40); v++)
      for (let u = at.x; u < at.x + at.width; u++) {
        const away = v - (at.y + 5 + (rise * (u - at.x)) / at.width)
        const dark = 1 - strength * Math.exp(-(away * away) / 2 / sigma / sigma)
        for (const { data } of picture.planes) data[v * WIDTH + u] *= dark
      }
  })
  return { frames, targets: [{ kinds: ['crossing', 'halo', 'soft', 'ghost'], at }] }
}

const nitidus = (...args: string[]) =>
  execFileSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'inherit'], maxBuffer: 64e6 })

/** Every suggestion accepted: the rectangle painted from its frame, or healed. */
function acceptAll(places: Place[]): object[] {
  return places.flatMap((place, k) => {
    const { suggestion } = place
    if (!suggestion || 'style' in suggestion) return []
    const stroke = { id: `${k}`, ...strokeOver(place) }
    return 'frame' in suggestion ? [{ ...stroke, kind: 'donor', frame: suggestion.frame }] : [{ ...stroke, kind: 'heal' }]
  })
}

/** PSNR of the whole and of the worst twentieth of the tiles of 32 px, beside the truth, in the crop. */
async function scoreOf(file: string, truth: Picture, crop: Rectangle): Promise<{ all: number; worst: number }> {
  const { samples, width, height } = await readSamples(file)
  const picture = fromInterleaved(samples, width, height)
  const tiles: number[] = []
  for (let ty = 16; ty + 32 <= height - 16; ty += 32)
    for (let tx = 16; tx + 32 <= width - 16; tx += 32) {
      let sum = 0
      picture.planes.forEach(({ data }, c) => {
        for (let y = ty; y < ty + 32; y++)
          for (let x = tx; x < tx + 32; x++) sum += (data[y * width + x] - truth.planes[c].data[(y + crop.y) * WIDTH + x + crop.x]) ** 2
      })
      tiles.push(sum / 3 / 32 ** 2)
    }
  tiles.sort((a, b) => b - a)
  const dB = (values: number[]) => -10 * Math.log10(values.reduce((all, value) => all + value, 0) / values.length)
  return { all: dB(tiles), worst: dB(tiles.slice(0, Math.max(1, Math.round(tiles.length / 20)))) }
}

const found = new Map<Kind, [number, number]>()
const gains: Record<string, { all: number[]; worst: number[] }> = {}
const loud: number[] = []
for (let run = Number(first); run < Number(first) + Number(runs); run++) {
  const kind = KINDS[run % KINDS.length]
  if (only && kind !== only) continue
  const setup = SETUPS[Math.floor(run / KINDS.length) % SETUPS.length]
  const request: SeriesRequest = {
    scene: setup.scene,
    seed: 500 + run,
    camera: { sensorWidth_mm: 36, width_px: WIDTH, height_px: HEIGHT, focalLength_mm: 100, mover: run % 2 ? 'rail' : 'ring', ...setup },
    positions_mm: Array.from({ length: COUNT }, (_, k) => -1 + setup.stride_mm * k),
    unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults: kind === 'specks' ? [{ kind: 'dust', specks: 3 }] : [],
  }
  const series = new SimulatedSeries(request)
  const folder = mkdtempSync(path.join(tmpdir(), 'finding-'))
  const at = (name: string) => path.join(folder, name)
  mkdirSync(at('frames'))
  const planted = plant(kind, series, 500 + run)
  for (const { picture, name } of planted.frames) await writePicture(at(`frames/${name}`), picture, { bits: 8 })
  const reference = planted.frames.findIndex(({ name }) => name === `f_${String(series.reference).padStart(2, '0')}.jpg`) + 1
  const dust = kind === 'specks' ? ['--dust', 'off'] : []
  nitidus(
    'fuse',
    at('frames'),
    // What moved is to show twice, so that there is something to find.
    '--moving',
    'blend',
    '--out',
    at('result.tif'),
    '--report',
    at('report.json'),
    '--bends',
    at('bends.json'),
    '--depth',
    at('depth.png'),
    ...(reference ? ['--reference', `${reference}`] : []),
    ...dust,
  )
  const answer = nitidus('inspect', at('frames'), '--report', at('report.json'), '--base', at('result.tif'), '--bends', at('bends.json'))
  const { places } = JSON.parse(answer) as { places: Place[] }
  const { crop } = JSON.parse(readFileSync(at('report.json'), 'utf8')) as { crop: Rectangle }
  const inCrop = (rectangle: Rectangle) => ({ ...rectangle, x: rectangle.x - crop.x, y: rectangle.y - crop.y })
  const name = `run ${run} ${setup.scene} ${kind}`
  const ten = places.slice(0, 10)
  const targets =
    kind === 'specks'
      ? specksOf(3, randomStream(request.seed + 99)).map(({ x, y, radius }) => {
          const r = 1.2 * radius * WIDTH
          return { kinds: ['dust' as const], at: { x: x * WIDTH - r, y: y * HEIGHT - r, width: 2 * r, height: 2 * r } }
        })
      : planted.targets
  const hits = targets.map(({ kinds, at: where }) => ten.some((place) => kinds.includes(place.kind) && (!where || overlap(place, inCrop(where)))))
  const [yes, all] = found.get(kind) ?? [0, 0]
  found.set(kind, [yes + hits.filter(Boolean).length, all + hits.length])
  if (kind === 'clean') loud.push(places.filter(({ severity }) => severity > 0.5).length)
  const edits = acceptAll(places)
  let change = ''
  if (reference) {
    const truth = series.truth()
    writeFileSync(at('edits.json'), JSON.stringify({ base: 'fused', edits }))
    nitidus(
      'mend',
      at('frames'),
      '--report',
      at('report.json'),
      '--base',
      at('result.tif'),
      '--bends',
      at('bends.json'),
      '--depth',
      at('depth.png'),
      '--edits',
      at('edits.json'),
      '--out',
      at('mended.tif'),
    )
    const [before, after] = [await scoreOf(at('result.tif'), truth, crop), await scoreOf(at('mended.tif'), truth, crop)]
    gains[kind] ??= { all: [], worst: [] }
    gains[kind].all.push(after.all - before.all)
    gains[kind].worst.push(after.worst - before.worst)
    change = `; accepted ${edits.length}: ${before.all.toFixed(2)} ${signed(after.all - before.all)} dB, worst ${before.worst.toFixed(2)} ${signed(after.worst - before.worst)} dB`
  }
  console.log(`${name}: ${hits.filter(Boolean).length} of ${hits.length}; ${summary(places)}${change}`)
  rmSync(folder, { recursive: true })
}

function summary(places: Place[]): string {
  return `${places.length} places: ${places
    .slice(0, 5)
    .map(({ kind, severity, suggestion }) => `${kind} ${severity}${suggestion ? '*' : ''}`)
    .join(', ')}`
}

function signed(value: number): string {
  return `${value >= 0 ? '+' : ''}${value.toFixed(2)}`
}

const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length)
for (const [kind, [yes, all]] of found)
  console.log(
    `${kind.padEnd(8)} found ${yes} of ${all}${gains[kind] ? `; all accepted: ${signed(mean(gains[kind].all))} dB on average, at the least ${signed(Math.min(...gains[kind].all))}; worst tiles ${signed(mean(gains[kind].worst))}` : ''}`,
  )
const [hit, all] = [...found.values()].reduce(([a, b], [yes, of]) => [a + yes, b + of], [0, 0])
console.log(`found ${hit} of ${all} among the first ten; places above 0.5 in clean series: ${loud.join(', ')}`)
