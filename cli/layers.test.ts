import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { readSamples } from '@/codec'
import type { Step } from '@/core/finish'
import { expectRefused, nitidus } from './testCommand'

const FRAMES = 5
let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const ok = (args: string[]) => {
  const { status, stderr } = nitidus(args)
  expect([stderr, status]).toEqual(['', 0])
}

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'layers-'))
  const scene = { scene: 'bristles', camera: { width_px: 300, height_px: 200, mover: 'ring', fNumber: 5.6 }, positions_mm: [0, 1.6, 3.2, 4.8, 6.4] }
  writeFileSync(at('scene.json'), JSON.stringify(scene))
  ok(['simulate', at('scene.json'), '--out', at('frames')])
  ok(['fuse', at('frames'), '--out', at('result.tif'), '--report', at('report.json'), '--bends', at('bends.json')])
})
afterAll(() => rmSync(folder, { recursive: true }))

/** Writes a picture with its layers, and unpacks it by Python's reader; answers the names of the entries in their order, and which are packed. */
function layered(steps: Step[], out: string): { name: string; packed: boolean }[] {
  writeFileSync(at('recipe.json'), JSON.stringify({ steps, bits: 16 }))
  const layers = ['--layers', at('frames'), '--report', at('report.json'), '--bends', at('bends.json')]
  ok(['finish', at('result.tif'), '--recipe', at('recipe.json'), '--out', at(out), ...layers])
  const script = `import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; z.extractall(sys.argv[2]); print("\\n".join(f"{i.filename} {i.compress_type}" for i in z.infolist()))`
  const listed = execFileSync('python3', ['-c', script, at(out), at(`${out}.open`)], { encoding: 'utf8' })
  return listed
    .trim()
    .split('\n')
    .map((line) => ({ name: line.split(' ')[0], packed: line.split(' ')[1] !== '0' }))
}

const raw = (file: string) => sharp(file).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
const sixteen = ({ buffer, byteOffset, byteLength }: Buffer) => new Uint16Array(buffer, byteOffset, byteLength / 2)

test('an OpenRaster file is laid out as its specification says', async () => {
  const entries = layered([], 'plain.ora')
  expect(entries[0]).toEqual({ name: 'mimetype', packed: false })
  expect(readFileSync(at('plain.ora.open', 'mimetype'), 'utf8')).toBe('image/openraster')
  expect(entries.map(({ name }) => name)).toEqual(expect.arrayContaining(['stack.xml', 'mergedimage.png', 'Thumbnails/thumbnail.png']))
  const xml = readFileSync(at('plain.ora.open', 'stack.xml'), 'utf8')
  const names = [...xml.matchAll(/<layer name="([^"]+)" src="([^"]+)"/g)].map(([, name, src]) => ({ name, src }))
  expect(names.map(({ name }) => name)).toEqual(['Finished', 'As it was fused', ...readdirSync(at('frames')).filter((name) => name.endsWith('.jpg'))])
  const { width, height } = await sharp(at('result.tif')).metadata()
  expect(xml).toContain(`w="${width}" h="${height}"`)
  for (const { src } of names) expect(await sharp(at('plain.ora.open', src)).metadata()).toMatchObject({ width, height, depth: 'ushort' })
  const small = await sharp(at('plain.ora.open', 'Thumbnails', 'thumbnail.png')).metadata()
  expect(Math.max(small.width, small.height)).toBe(256)
  // The merged picture is the render, sample by sample.
  expect((await readSamples(at('plain.ora.open', 'mergedimage.png'))).samples).toEqual((await readSamples(at('result.tif'))).samples)
})

test('frames are seen each where it was chosen, and together they make the picture', async () => {
  layered([], 'frames.ora')
  const fused = await readSamples(at('result.tif'))
  const pixels = fused.width * fused.height
  const [made, seen] = [new Float64Array(3 * pixels), new Uint8Array(pixels)]
  for (let k = 0; k < FRAMES; k++) {
    const { data, info } = await raw(at('frames.ora.open', 'data', `layer00${k + 2}.png`))
    expect(info.channels).toBe(4)
    const samples = sixteen(data)
    let shown = 0
    for (let i = 0; i < pixels; i++) {
      if (samples[4 * i + 3] === 0) continue
      shown++
      seen[i]++
      for (let c = 0; c < 3; c++) made[3 * i + c] = samples[4 * i + c]
    }
    expect(shown).toBeGreaterThan(pixels / 1000)
  }
  // Every place in one frame, no more.
  expect(seen.every((times) => times === 1)).toBe(true)
  const error = made.reduce((sum, value, i) => sum + (value - fused.samples[i]) ** 2, 0) / made.length
  expect(10 * Math.log10(65535 ** 2 / error)).toBeGreaterThan(30)
})

test('layers go through the steps that change the shape, not through those that change the light', async () => {
  layered([{ do: 'crop', x: 20, y: 10, width: 160, height: 120 }, { do: 'light', stops: -2 }], 'crop.ora') // prettier-ignore
  const merged = await readSamples(at('crop.ora.open', 'mergedimage.png'))
  expect([merged.width, merged.height]).toEqual([160, 120])
  const { data, info } = await raw(at('crop.ora.open', 'data', 'layer001.png'))
  expect([info.width, info.height]).toEqual([160, 120])
  const fused = await readSamples(at('result.tif'))
  const before = sixteen(data)
  for (const [x, y] of [
    [0, 0],
    [159, 119],
    [80, 33],
  ] as const)
    // prettier-ignore
    for (let c = 0; c < 3; c++) expect(before[4 * (y * 160 + x) + c]).toBe(fused.samples[3 * ((y + 10) * fused.width + x + 20) + c])
  expect(merged.samples[3 * 5000]).toBeLessThan(0.7 * before[4 * 5000])
})

test('a TIFF with layers has a page each, under its name; pages are what the layers of OpenRaster are', async () => {
  layered([], 'same.ora')
  writeFileSync(at('recipe.json'), JSON.stringify({ steps: [], bits: 16 }))
  const layers = ['--layers', at('frames'), '--report', at('report.json'), '--bends', at('bends.json')]
  ok(['finish', at('result.tif'), '--recipe', at('recipe.json'), '--out', at('pages.tif'), ...layers])
  const told = execFileSync('tiffinfo', [at('pages.tif')], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
  const frames = readdirSync(at('frames')).filter((name) => name.endsWith('.jpg'))
  expect([...told.matchAll(/PageName: (.*)/g)].map(([, name]) => name)).toEqual(['Finished', 'As it was fused', ...frames])
  expect(told.match(/Bits\/Sample: 16/g)).toHaveLength(frames.length + 2)
  expect(told.match(/Samples\/Pixel: 4/g)).toHaveLength(frames.length + 2)
  for (const page of [0, 1, 3, frames.length + 1]) {
    const of = { page, limitInputPixels: false }
    const there = await sharp(at('pages.tif'), of).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
    const wanted = await raw(at('same.ora.open', page === 0 ? 'mergedimage.png' : `data/layer00${page}.png`))
    const [a, b] = [sixteen(there.data), sixteen(wanted.data)]
    for (let i = 0; i < wanted.info.width * wanted.info.height; i += 11)
      for (let c = 0; c < 3; c++) expect(a[4 * i + c]).toBe(b[wanted.info.channels * i + c])
    if (page > 0) expect(a.filter((_, i) => i % 4 === 3)).toEqual(b.filter((_, i) => i % 4 === 3))
  }
})

test('beneath a caption layers end, and are seen as before above it', async () => {
  layered([{ do: 'caption', text: 'Brush', tone: 'light' }], 'words.ora')
  const { width, height } = await sharp(at('result.tif')).metadata()
  const merged = await sharp(at('words.ora.open', 'mergedimage.png')).metadata()
  expect([merged.width, merged.height > height]).toEqual([width, true])
  const { data, info } = await raw(at('words.ora.open', 'data', 'layer001.png'))
  expect([info.width, info.height]).toEqual([merged.width, merged.height])
  const samples = sixteen(data)
  expect([samples[3], samples[4 * width * height - 1], samples[4 * width * height + 3]]).toEqual([65535, 65535, 0])
})

test('layers without a report, and frames of another render, are refused; nothing is left behind', () => {
  writeFileSync(at('recipe.json'), JSON.stringify({ steps: [] }))
  const args = ['finish', at('result.tif'), '--recipe', at('recipe.json'), '--out', at('no.ora'), '--layers', at('frames')]
  expectRefused(nitidus(args), 'finish.layersReport')
  const report = JSON.parse(readFileSync(at('report.json'), 'utf8'))
  writeFileSync(at('other.json'), JSON.stringify({ ...report, crop: { ...report.crop, width: report.crop.width - 10 } }))
  expectRefused(nitidus([...args, '--report', at('other.json')]), 'finish.mapSize')
  expect(readdirSync(folder).filter((name) => /no\.|^\./.test(name))).toEqual([])
})
