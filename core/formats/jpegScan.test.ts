import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp, { type JpegOptions } from 'sharp'
import { jpegDataFit } from '.'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'jpeg-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

/** A picture with detail everywhere, so that its data are long; the same for the same seed. */
function detail(width: number, height: number, channels: 1 | 3, seed = 1) {
  let state = seed
  const samples = Buffer.alloc(width * height * channels)
  for (let i = 0; i < samples.length; i++) {
    state = (state * 16807) % 2147483647
    samples[i] = 60 + (state % 140)
  }
  return sharp(samples, { raw: { width, height, channels } })
}
const jpeg = async (width: number, height: number, options: JpegOptions = {}, channels: 1 | 3 = 3) =>
  new Uint8Array(
    await detail(width, height, channels)
      .toColourspace(channels === 1 ? 'b-w' : 'srgb')
      .jpeg(options)
      .toBuffer(),
  )

/** Where the compressed data begin: behind the header of the first scan. */
function dataStart(file: Uint8Array): number {
  for (let at = 2; ; at += 2 + ((file[at + 2] << 8) | file[at + 3])) if (file[at + 1] === 0xda) return at + 2 + ((file[at + 2] << 8) | file[at + 3])
}

describe('data that are as they were written', () => {
  test.each<[string, number, number, JpegOptions, 1 | 3]>([
    ['whole blocks', 64, 48, {}, 3],
    ['a size that is no multiple of a block', 61, 43, {}, 3],
    ['a single pixel', 1, 1, {}, 3],
    ['colours at full size', 61, 43, { chromaSubsampling: '4:4:4' }, 3],
    ['colours at half size', 61, 43, { chromaSubsampling: '4:2:0' }, 3],
    ['grey', 61, 43, {}, 1],
    ['tables made for the picture', 61, 43, { optimiseCoding: true }, 3],
    ['usual tables', 61, 43, { optimiseCoding: false }, 3],
    ['the least quality', 61, 43, { quality: 1 }, 3],
    ['the best quality', 61, 43, { quality: 100 }, 3],
  ])('%s fit', async (_, width, height, options, channels) => {
    expect(jpegDataFit(await jpeg(width, height, options, channels))).toBe(true)
  })

  test('restart markers fit, however often they come, as another encoder writes them', async () => {
    const source = path.join(folder, 'source.ppm')
    await detail(70, 50, 3).toFormat('png').toFile(path.join(folder, 'source.png'))
    execFileSync('convert', [path.join(folder, 'source.png'), source])
    for (const every of ['1B', '3B', '1', '2']) {
      const out = path.join(folder, `restart-${every}.jpg`)
      writeFileSync(out, execFileSync('cjpeg', ['-restart', every, '-quality', '90', source]))
      const file = new Uint8Array(readFileSync(out))
      expect([every, file.some((byte, i) => byte === 0xff && file[i + 1] >= 0xd0 && file[i + 1] <= 0xd7)]).toEqual([every, true])
      expect([every, jpegDataFit(file)]).toEqual([every, true])
    }
  })

  test('of progressive pictures nothing is said', async () => {
    expect(jpegDataFit(await jpeg(61, 43, { progressive: true }))).toBeUndefined()
  })
})

describe('data that were damaged', () => {
  test('a cut anywhere in them is seen', async () => {
    const file = await jpeg(96, 64, { quality: 90 })
    const begin = dataStart(file)
    for (let k = 1; k < 20; k++) {
      const at = begin + Math.round(((file.length - begin) * k) / 20)
      expect([k, jpegDataFit(file.subarray(0, at))]).toEqual([k, false])
    }
  })

  test('a piece that is missing, zeroed or foreign is seen in nearly every file', async () => {
    const file = await jpeg(160, 120, { quality: 92 })
    const other = await detail(160, 120, 3, 77).jpeg({ quality: 92 }).toBuffer()
    const begin = dataStart(file)
    const length = 600
    const seen = { missing: 0, zeroed: 0, foreign: 0 }
    const TRIES = 40
    for (let k = 0; k < TRIES; k++) {
      const at = begin + 40 + Math.round(((file.length - begin - length - 80) * k) / TRIES)
      const missing = new Uint8Array([...file.subarray(0, at), ...file.subarray(at + length)])
      const zeroed = file.slice()
      zeroed.fill(0, at, at + length)
      const foreign = file.slice()
      foreign.set(other.subarray(at, at + length), at)
      for (const [how, damaged] of Object.entries({ missing, zeroed, foreign })) if (jpegDataFit(damaged) === false) seen[how as keyof typeof seen]++
    }
    for (const count of Object.values(seen)) expect(count).toBeGreaterThanOrEqual(0.95 * TRIES)
  })

  test('what is no JPEG, or has no data, does not fit', async () => {
    const file = await jpeg(61, 43)
    expect(jpegDataFit(new Uint8Array(0))).toBe(false)
    expect(jpegDataFit(new Uint8Array(Buffer.from('Dear museum, here are the pictures.')))).toBe(false)
    expect(jpegDataFit(file.subarray(0, dataStart(file)))).toBe(false)
    // Header and end without anything between them.
    expect(jpegDataFit(new Uint8Array([...file.subarray(0, dataStart(file)), 0xff, 0xd9]))).toBe(false)
  })

  test('no bytes make it fail or go on for ever', async () => {
    const file = await jpeg(40, 30)
    let state = 5
    const next = (below: number) => (state = (state * 16807) % 2147483647) % below
    for (let k = 0; k < 300; k++) {
      const changed = file.slice(0, 2 + next(file.length - 2))
      for (let c = 0; c < 1 + next(12); c++) changed[next(changed.length)] = next(256)
      expect([true, false, undefined]).toContain(jpegDataFit(changed))
    }
  })
})
