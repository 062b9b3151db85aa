import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { readGrey, readSamples } from '@/codec'
import { registrationOf } from '@/schemas'
import type { TakeJob } from '@/schemas'
import { expectRefused, nitidus } from './testCommand'

const POSITIONS = [0, 1.6, 3.2, 4.8, 6.4]
const NAMES = POSITIONS.map((_, k) => `frame_00${k + 1}.jpg`)
let folder: string
let size: { width: number; height: number }
const at = (...names: string[]) => path.join(folder, ...names)
const python = (script: string, ...args: string[]) => execFileSync('/usr/bin/python3', ['-c', script, ...args], { encoding: 'utf8' }).trim()
const unzipped = (file: string) => {
  const script =
    'import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; z.extractall(sys.argv[2]); print("\\n".join(z.namelist()))'
  return python(script, file, `${file}.open`).split('\n')
}

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'take-'))
  const scene = { scene: 'bristles', camera: { width_px: 300, height_px: 200, mover: 'ring', fNumber: 5.6 }, positions_mm: POSITIONS }
  writeFileSync(at('scene.json'), JSON.stringify(scene))
  writeFileSync(at('positions.json'), JSON.stringify(Object.fromEntries(NAMES.map((name, k) => [name, POSITIONS[k]]))))
  const ok = (args: string[]) => expect(nitidus(args)).toMatchObject({ stderr: '', status: 0 })
  ok(['simulate', at('scene.json'), '--out', at('frames')])
  const maps = ['--source-map', at('source.png'), '--depth', at('depth.png'), '--positions', at('positions.json')]
  ok(['fuse', at('frames'), '--out', at('result.tif'), '--report', at('report.json'), ...maps])
  const report = JSON.parse(readFileSync(at('report.json'), 'utf8'))
  size = report.crop
  writeFileSync(at('registration.json'), JSON.stringify(registrationOf(report, { frames: {} })))
})
afterAll(() => rmSync(folder, { recursive: true }))

function job(what: TakeJob['what'], out: string, change: Partial<TakeJob> = {}) {
  const facts = { unit: 'mm', at0: 0, at65535: 6.4, slices: POSITIONS, pixelSize: { size_mm: 0.12, at_mm: 3.2, pupil_mm: 200 }, width_px: size.width }
  const frames = NAMES.map((name) => ({ name, file: path.join('frames', name) }))
  const named = { picture: 'result.tif', depth: 'depth.png', sourceMap: 'source.png', surface: facts, frames, registration: 'registration.json' }
  writeFileSync(at('job.json'), JSON.stringify({ version: 1, kind: 'take', what, ...named, out, ...change }))
  return nitidus(['run', at('job.json')])
}
function taken(what: TakeJob['what'], out: string): string {
  expect(job(what, out)).toMatchObject({ stderr: '', status: 0 })
  return at(out)
}

test('the registered frames come as TIFFs of 16 bits, each where it lies in the picture', async () => {
  const names = unzipped(taken('frames', 'frames.zip'))
  expect(names).toEqual(NAMES.map((name, k) => `${k + 1}_${name.replace('.jpg', '.tif')}`))
  const told = execFileSync('tiffinfo', [at('frames.zip.open', names[1])], { encoding: 'utf8' })
  expect(told).toContain('Bits/Sample: 16')
  expect(told).toContain(`Image Width: ${size.width} Image Length: ${size.height}`)
  const fused = await readSamples(at('result.tif'))
  const frames = await Promise.all(names.map((name) => readSamples(at('frames.zip.open', name))))
  const map = await readGrey(at('source.png'))
  let sum = 0
  // What the source map says, laid together from these files, is about the picture.
  for (let i = 0; i < map.data.length; i++)
    for (let c = 0; c < 3; c++) sum += (frames[Math.round(map.data[i] / 257)].samples[3 * i + c] - fused.samples[3 * i + c]) ** 2
  expect(10 * Math.log10(65535 ** 2 / (sum / map.data.length / 3))).toBeGreaterThan(26)
  expect(readdirSync(folder).filter((name) => name.startsWith('.take'))).toEqual([])
})

test('masks are white where their frame shows, each place in one; the list names them', async () => {
  const names = unzipped(taken('masks', 'masks.zip'))
  const list = JSON.parse(readFileSync(at('masks.zip.open', 'frames.json'), 'utf8')) as { number: number; file: string; mask: string }[]
  expect(list.map(({ file }) => file)).toEqual(NAMES)
  expect(names).toEqual(['frames.json', 'source-map.png', ...list.map(({ mask }) => mask)])
  const map = await readGrey(at('masks.zip.open', 'source-map.png'))
  const masks = await Promise.all(list.map(({ mask }) => readGrey(at('masks.zip.open', mask))))
  for (let i = 0; i < map.data.length; i += 7) for (const [k, { data }] of masks.entries()) expect(data[i]).toBe(map.data[i] === 257 * k ? 65535 : 0)
})

test.each(['webp', 'gif'])('the run of the focus goes there and back, over and over, as %s', (ending) => {
  const script =
    'import sys; from PIL import Image; i = Image.open(sys.argv[1]); print(i.n_frames, i.info.get("loop"), *i.size, i.info.get("duration"))'
  const [count, loop, width, height] = python(script, taken('focusRun', `run.${ending}`))
    .split(' ')
    .map(Number)
  expect([count, loop]).toEqual([8, 0])
  expect(Math.abs(width / height - size.width / size.height)).toBeLessThan(0.01)
})

test('each picture of the focus run is its frame', async () => {
  taken('focusRun', 'run.webp')
  unzipped(taken('frames', 'frames.zip'))
  const { data, info } = await sharp(at('run.webp'), { page: 2 }).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  const frame = await readSamples(at('frames.zip.open', '3_frame_003.tif'))
  expect([info.width, info.height]).toEqual([frame.width, frame.height])
  const off = data.reduce((sum, value, i) => sum + Math.abs(value - frame.samples[i] / 257), 0) / data.length
  expect(off).toBeLessThan(4)
})

test('rocking swings: near and far move against each other, and the first picture is the picture', async () => {
  const script = 'import sys; from PIL import Image; i = Image.open(sys.argv[1]); print(i.n_frames)'
  expect(python(script, taken('rocking', 'rocking.webp'))).toBe('24')
  const page = async (k: number) => sharp(at('rocking.webp'), { page: k }).removeAlpha().raw().toBuffer()
  const fused = await readSamples(at('result.tif'))
  const first = await page(0)
  expect(first.reduce((sum, value, i) => sum + Math.abs(value - fused.samples[i] / 257), 0) / first.length).toBeLessThan(4)
  const [left, right] = [await page(18), await page(6)]
  expect(left.equals(right)).toBe(false)
})

test('a stereo pair has the left eye on the left; crossed, on the right', async () => {
  const [pair, crossed] = await Promise.all(
    [taken('stereo', 'stereo.png'), taken('crossed', 'crossed.png')].map((file) => sharp(file).raw().toBuffer()),
  )
  const { width } = await sharp(at('stereo.png')).metadata()
  expect(width).toBe(2 * size.width)
  const half = (whole: Buffer, side: number) =>
    Buffer.concat(
      Array.from({ length: size.height }, (_, y) => whole.subarray(3 * (y * width + side * size.width), 3 * (y * width + (side + 1) * size.width))),
    )
  expect(half(pair, 0).equals(half(crossed, 1))).toBe(true)
  // Near parts lie farther to the left for the right eye: the two halves fit best when the near ones are moved so.
  const depth = await readGrey(at('depth.png'))
  const [l, r] = [half(pair, 0), half(pair, 1)]
  const apart = (shift: number) => {
    let [sum, count] = [0, 0]
    for (let y = 0; y < size.height; y++)
      for (let x = 30; x < size.width - 30; x++) {
        if (depth.data[y * size.width + x] > 12_000) continue
        sum += Math.abs(l[3 * (y * size.width + x + shift) + 1] - r[3 * (y * size.width + x - shift) + 1])
        count++
      }
    return sum / count
  }
  expect(apart(4)).toBeLessThan(apart(-4))
})

test('the relief opens in a public checker in every format, as large as the subject', () => {
  const wide_mm = 0.12 * size.width
  for (const ending of ['glb', 'stl', 'obj', 'ply']) {
    const told = execFileSync('assimp', ['info', taken('relief', `relief.${ending}`)], { encoding: 'utf8' })
    const corner = (name: string) =>
      told
        .match(new RegExp(`${name}\\s+point\\s+\\((\\S+) (\\S+) (\\S+)\\)`, 'i'))!
        .slice(1)
        .map(Number)
    const [least, most] = [corner('Minimum'), corner('Maximum')]
    const unit = ending === 'glb' ? 1000 : 1
    // Depth is spread over 6.4 mm at the most; what lies nearer is a little smaller.
    expect(Math.abs(unit * (most[0] - least[0]) - wide_mm) / wide_mm).toBeLessThan(0.03)
    expect(unit * (most[2] - least[2])).toBeGreaterThan(3)
    expect(unit * (most[2] - least[2])).toBeLessThanOrEqual(6.41)
  }
})

test('a glTF file is valid, and carries the picture', async () => {
  const { validateBytes } = await import('gltf-validator')
  const report = await validateBytes(new Uint8Array(readFileSync(taken('relief', 'relief.glb'))))
  expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
  expect(report.info.resources).toEqual(expect.arrayContaining([expect.objectContaining({ mimeType: 'image/jpeg' })]))
})

test('what cannot be made is refused in a sentence, and nothing is left', () => {
  mkdirSync(at('made'))
  expectRefused(job('relief', 'made/relief.zip'), 'take.ending')
  expectRefused(job('rocking', 'made/a.webp', { depth: undefined }), 'take.noDepth')
  expectRefused(job('masks', 'made/a.zip', { sourceMap: undefined }), 'take.noSource')
  expectRefused(job('frames', 'made/a.zip', { registration: undefined }), 'take.noFrames')
  expectRefused(job('frames', 'made/a.zip', { frames: NAMES.map((name) => ({ name, file: 'frames/gone.jpg' })) }), 'picture.missing')
  expect(readdirSync(at('made'))).toEqual([])
})
