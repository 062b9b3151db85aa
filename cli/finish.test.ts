import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { converter, differenceCiede2000 } from 'culori'
import sharp from 'sharp'
import { profileOf, readFacts, readSamples, writePicture } from '@/codec'
import type { Step } from '@/core/finish'
import { expectRefused, nitidus } from './testCommand'

const [WIDTH, HEIGHT] = [240, 160]
let folder: string
const at = (...names: string[]) => path.join(folder, ...names)

/** A picture of all tones and many colours, in P3 and with EXIF. */
const picture = () => Uint16Array.from({ length: 3 * WIDTH * HEIGHT }, (_, i) => {
  const [x, y] = [Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH)]
  return [270 * x + 10 * (y % 7), 400 * y + 5 * (x % 11), 30_000 + 12_000 * Math.sin(x / 9) * Math.cos(y / 7)][i % 3]
}) // prettier-ignore
const taken = { body: 'Camera One', lens: 'Lens 90', exposure_s: 0.02, fNumber: 5.6, focalLength_mm: 90, iso: 200, taken_at: '2026-05-11T09:30:00' }

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'finish-'))
  await writePicture(at('picture.tif'), { samples: picture(), width: WIDTH, height: HEIGHT }, { bits: 16, icc: profileOf('p3'), taken })
})
afterAll(() => rmSync(folder, { recursive: true }))

/** Finishes by a recipe, and answers the file's path. */
function finished(steps: Step[], out: string, change: object = {}, args: string[] = []): string {
  writeFileSync(at('recipe.json'), JSON.stringify({ steps, ...change }))
  const { status, stderr } = nitidus(['finish', at('picture.tif'), '--recipe', at('recipe.json'), '--out', at(out), ...args])
  expect([stderr, status]).toEqual(['', 0])
  return at(out)
}
function refused(recipe: object, code: string, out = 'no.tif', args: string[] = []) {
  writeFileSync(at('recipe.json'), JSON.stringify(recipe))
  expectRefused(nitidus(['finish', at('picture.tif'), '--recipe', at('recipe.json'), '--out', at(out), ...args]), code)
  expect(readdirSync(folder).filter((name) => name.includes('no.'))).toEqual([])
}

test('an empty recipe changes no sample and keeps profile and EXIF; the same bytes each time', async () => {
  const file = finished([], 'same.tif')
  expect((await readSamples(file)).samples).toEqual((await readSamples(at('picture.tif'))).samples)
  expect((await readFacts(file)).colour.icc).toEqual(profileOf('p3'))
  const again = finished([{ do: 'light', stops: 0.4 }], 'light.tif')
  const first = await sharp(again).raw({ depth: 'ushort' }).toBuffer()
  expect(
    await sharp(finished([{ do: 'light', stops: 0.4 }], 'light2.tif'))
      .raw({ depth: 'ushort' })
      .toBuffer(),
  ).toEqual(first)
})

test('a recipe that was made for another picture is fitted to this one; a scale bar whose pixels nobody knows is refused', async () => {
  const crop: Step = { do: 'crop', x: 120, y: 80, width: 720, height: 480 }
  // Twice the crop that lies here at a quarter of the size.
  const fitted = finished([crop], 'fitted.tif', { for: { width: 960, height: 640 } })
  const plain = finished([{ do: 'crop', x: 30, y: 20, width: 180, height: 120 }], 'plain.tif')
  expect((await readSamples(fitted)).samples).toEqual((await readSamples(plain)).samples)
  const bar: Step = { do: 'scaleBar', pixel_mm: 0.02, length_mm: 1 }
  refused({ steps: [bar], for: { width: 960, height: 640, pixel_mm: 0.02 } }, 'finish.noScale')
  // For a picture of this size it is meant as it stands.
  finished([bar], 'bar.tif', { for: { width: WIDTH, height: HEIGHT } })
})

test.each(['tif', 'png', 'jpg', 'webp', 'avif'])('%s is read by other readers: its size, its colours, what it was taken with, and how it was made', async (ending) => {
  const steps: Step[] = [{ do: 'light', stops: -0.3 }, { do: 'crop', x: 20, y: 10, width: 200, height: 140 }]
  const file = finished(steps, `out.${ending}`, { quality: 100 })
  const [size] = execFileSync('identify', ['-format', '%w %h\n', file], { encoding: 'utf8' }).split('\n')
  expect(size).toBe('200 140')
  const facts = JSON.parse(execFileSync('exiftool', ['-j', '-n', '-Model', '-FNumber', '-ISO', '-ProfileDescription', '-Description', file], { encoding: 'utf8' }))[0]
  expect(facts).toMatchObject({ Model: 'Camera One', FNumber: 5.6, ISO: 200, ProfileDescription: 'P3' })
  expect(facts.Description).toBe('0.3 stops darker. Crop to 200 × 140 px')
  // By another decoder, without its colour management: the samples that were meant.
  const whole = await readSamples(finished(steps, 'whole.tif'))
  if (ending === 'tif' || ending === 'png') return expect((await readSamples(file)).samples).toEqual(whole.samples)
  const { data } = await sharp(file, { ignoreIcc: true }).removeAlpha().raw().toBuffer({ resolveWithObject: true })
  let sum = 0
  data.forEach((value, i) => (sum += Math.abs(value - whole.samples[i] / 257)))
  expect(sum / data.length).toBeLessThan(0.8)
}) // prettier-ignore

test('converted to sRGB, colours that it holds are those of the picture, by the definition of both spaces', async () => {
  const file = finished([], 'srgb.png', { bits: 8, profile: 'srgb' })
  expect((await readFacts(file)).colour.icc).toEqual(profileOf('srgb'))
  const converted = await sharp(file, { ignoreIcc: true }).raw().toBuffer()
  const before = picture()
  const [toRgb, different] = [converter('rgb'), differenceCiede2000()]
  let [worst, held] = [0, 0]
  for (let i = 0; i < before.length; i += 3) {
    const { r, g, b } = toRgb({ mode: 'p3', r: before[i] / 65535, g: before[i + 1] / 65535, b: before[i + 2] / 65535 })
    if (Math.min(r, g, b) < 0.002 || Math.max(r, g, b) > 0.998) continue
    held++
    const [red, green, blue] = converted.subarray(i, i + 3)
    worst = Math.max(worst, different({ mode: 'rgb', r, g, b }, { mode: 'rgb', r: red / 255, g: green / 255, b: blue / 255 }))
  }
  expect(held).toBeGreaterThan(10_000)
  expect(worst).toBeLessThan(2)
  expect((await readSamples(finished([], 'wide.tif', { profile: 'wide' }))).samples).not.toEqual(before)
})

test('a size for paper is said in the file, and a scale bar is as long as its length', async () => {
  const file = finished([{ do: 'size', width_mm: 30, perInch: 254 }, { do: 'scaleBar', pixel_mm: 0.05, length_mm: 3 }], 'print.tif') // prettier-ignore
  expect(execFileSync('identify', ['-format', '%w %x', file], { encoding: 'utf8' })).toMatch(/^300 (254|100)/)
  const { samples, width, height } = await readSamples(file)
  let longest = 0
  for (let y = 0; y < height; y++)
    for (let x = 0, run = 0; x < width; x++) {
      const i = 3 * (y * width + x)
      longest = Math.max(longest, (run = samples[i] === 65535 && samples[i + 1] === 65535 && samples[i + 2] === 65535 ? run + 1 : 0))
    }
  // 3 mm of 0.05 mm a pixel are 60 pixels, 75 of the larger picture.
  expect(longest).toBe(75)
})

test('steps along the depth need a depth of the same size', async () => {
  const step: Step = { do: 'depthGradient', from: 0, to: 1, stops: -1 }
  refused({ steps: [step] }, 'finish.noDepth')
  await sharp(new Uint16Array(WIDTH * HEIGHT).fill(65535), { raw: { width: WIDTH, height: HEIGHT, channels: 1 } }).toColourspace('grey16').png().toFile(at('depth.png')) // prettier-ignore
  const deep = await readSamples(finished([step], 'deep.tif', {}, ['--depth', at('depth.png')]))
  expect(deep.samples).toEqual((await readSamples(at('picture.tif'))).samples)
  await sharp(new Uint16Array(100 * 80), { raw: { width: 100, height: 80, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toFile(at('small.png'))
  refused({ steps: [step] }, 'finish.mapSize', 'no.tif', ['--depth', at('small.png')])
})

test.each<[string, object, string]>([
  ['a crop outside', { steps: [{ do: 'crop', x: 200, y: 0, width: 100, height: 10 }] }, 'finish.cropOutside'],
  ['size 0', { steps: [{ do: 'size', long_px: 0 }] }, 'finish.size'],
  ['200,000 px', { steps: [{ do: 'size', long_px: 200_000 }] }, 'finish.size'],
  ['tones that fall', { steps: [{ do: 'tones', points: [[-4, -1], [0, -2]] }] }, 'finish.tones'],
  ['a line without length', { steps: [{ do: 'gradient', from: [3, 4], to: [3, 4], stops: 1 }] }, 'finish.shortLine'],
  ['a newer recipe', { version: 99, steps: [{ do: 'glow' }] }, 'finish.newer'],
  ['an unknown step', { steps: [{ do: 'glow' }] }, 'value.any.only'],
  ['a neutral place outside', { steps: [{ do: 'neutral', at: [900, 4], radius_px: 8 }] }, 'finish.placeOutside'],
])('%s is refused in a sentence, and nothing is written', (_, recipe, code) => refused(recipe, code)) // prettier-ignore

test('a name that asks for no picture is refused', () => refused({ steps: [] }, 'finish.ending', 'no.bmp'))
