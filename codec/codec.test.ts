import { mkdtemp, readdir, readFile, rm, truncate, writeFile } from 'node:fs/promises'
import { spawnSync } from 'node:child_process'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { gammaCurve, greyProfile } from '@/core/formats'
import { createPicture, createPlane, type Picture } from '@/core/raster'
import { readFacts, readPicture, readSamples, readTakenWith, verifyPicture, writeGrey, writePicture, writeWhole } from '.'
import { expectTaken } from './testTaken'

let folder: string
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'codec-'))
})
afterEach(() => rm(folder, { recursive: true }))

const at = (name: string) => path.join(folder, name)

function gradient(width = 48, height = 32): Picture {
  const picture = createPicture(width, height)
  picture.planes.forEach(({ data }, c) => data.forEach((_, i) => (data[i] = (i % width) / (width - 1) / (1 + c * 0.5) + 0.0001)))
  return picture
}

const largestError = (a: Picture, b: Picture) =>
  Math.max(...a.planes.flatMap(({ data }, c) => [...data].map((v, i) => Math.abs(Math.min(1, v) - b.planes[c].data[i]))))

describe('writing and reading', () => {
  test.each([
    ['tif', 16, 1 / 65535],
    ['png', 16, 1 / 65535],
    ['tif', 8, 1 / 255],
    ['png', 8, 1 / 255],
    ['jpg', 8, 6 / 255],
  ] as const)('%s with %d bits keeps the picture', async (format, bits, tolerance) => {
    const picture = gradient()
    await writePicture(at(`p.${format}`), picture, { bits })
    expect(await readFacts(at(`p.${format}`))).toMatchObject({ width: 48, height: 32, bits })
    expect(largestError(picture, await readPicture(at(`p.${format}`)))).toBeLessThanOrEqual(tolerance)
  })

  test('a smaller picture is asked for by its width', async () => {
    await writePicture(at('p.jpg'), gradient(400, 200), { bits: 8 })
    const small = await readPicture(at('p.jpg'), 100)
    expect([small.width, small.height]).toEqual([100, 50])
  })

  test('a grey map keeps its whole numbers in 8 and 16 bits', async () => {
    const plane = createPlane(5, 1)
    plane.data.set([0, 1, 7, 200, 255])
    await writeGrey(at('map.png'), plane, 8)
    expect([...(await sharp(at('map.png')).toColourspace('b-w').raw().toBuffer())].filter((_, i, all) => i % (all.length / 5) === 0)).toEqual([
      0, 1, 7, 200, 255,
    ])
    plane.data.set([0, 300, 65535, 1, 2])
    await writeGrey(at('deep.png'), plane, 16)
    expect((await sharp(at('deep.png')).metadata()).depth).toBe('ushort')
  })

  test('a grey map of whole numbers is written as it is, one of others rounded and held to its range', async () => {
    const samplesOf = async (name: string) => {
      const data = await sharp(at(name)).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer()
      return [...new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)]
    }
    const deep = Uint16Array.of(0, 1, 40_000, 65_535, 12, 700)
    await writeGrey(at('whole.png'), { width: 3, height: 2, data: deep }, 16)
    expect(await samplesOf('whole.png')).toEqual([...deep])
    await writeGrey(at('others.png'), { width: 3, height: 2, data: Float32Array.of(-5, 0.6, 40_000.4, 90_000, 11.5, 700) }, 16)
    expect(await samplesOf('others.png')).toEqual([0, 1, 40_000, 65_535, 12, 700])
  })

  test('a grey map that cannot be written leaves nothing behind', async () => {
    const nowhere = path.join(folder, 'missing', 'map.png')
    await expect(writeGrey(nowhere, { width: 1, height: 1, data: Uint8Array.of(3) }, 8)).rejects.toThrow('ENOENT')
    // More was promised than is there: the encoder refuses it, and no part of a file stays.
    await expect(writeGrey(at('short.png'), { width: 9, height: 9, data: Uint8Array.of(3) }, 8)).rejects.toThrow()
    expect(await readdir(folder)).toEqual([])
  })

  test.each(['jpg', 'png', 'tif'])('what a picture was taken with is written into %s, and read again', async (ending) => {
    const taken = {
      body: 'Body A',
      lens: 'Macro 100',
      taken_at: '2026-05-11T09:30:04.000Z',
      exposure_s: 1 / 13,
      fNumber: 5.6,
      focalLength_mm: 100,
      iso: 200,
    }
    const file = at(`p.${ending}`)
    await writePicture(file, gradient(), { bits: 8, taken })
    const { exif, format } = await readFacts(file)
    expect(await readTakenWith(format === 'tiff' ? file : exif)).toEqual({ ...taken, exposure_s: expect.closeTo(1 / 13, 9) })
    // A reader that is not ours.
    const tags = JSON.parse(spawnSync('exiftool', ['-j', '-n', '-warning', file], { encoding: 'utf8' }).stdout)[0]
    expect(tags.Warning).toBeUndefined()
    expectTaken(file, 6)
  })

  test('a turned picture is read upright', async () => {
    await sharp({ create: { width: 30, height: 20, channels: 3, background: '#888' } })
      .jpeg()
      .withMetadata({ orientation: 6 })
      .toFile(at('turned.jpg'))
    expect(await readFacts(at('turned.jpg'))).toMatchObject({ width: 20, height: 30 })
    const { width, height } = await readPicture(at('turned.jpg'))
    expect([width, height]).toEqual([20, 30])
  })
})

describe('files that are no pictures', () => {
  test.each([
    ['a text file named .jpg', 'text.jpg', async (file: string) => writeFile(file, 'not a picture'), 'picture.unreadable'],
    ['an empty file', 'empty.jpg', async (file: string) => writeFile(file, ''), 'picture.unreadable'],
    [
      'a truncated JPEG',
      'cut.jpg',
      async (file: string) => {
        await writePicture(file, gradient(300, 200), { bits: 8 })
        await truncate(file, 3000)
      },
      'picture.damaged',
    ],
    [
      'a GIF',
      'p.gif.jpg',
      async (file: string) =>
        void (await sharp({ create: { width: 9, height: 9, channels: 3, background: '#fff' } })
          .gif()
          .toFile(file)),
      'picture.format',
    ],
    ['a missing file', 'nowhere.jpg', async () => {}, 'picture.missing'],
  ])('%s is refused by name', async (_, name, make, code) => {
    await make(at(name))
    await expect(verifyPicture(at(name))).rejects.toMatchObject({ code, message: expect.stringContaining(name) })
  })

  test('a picture cut at any kilobyte is refused, never half read', async () => {
    await writePicture(at('whole.jpg'), gradient(200, 150), { bits: 8 })
    const whole = await readFile(at('whole.jpg'))
    for (let length = 0; length < whole.length - 2; length += 1024) {
      await writeFile(at('part.jpg'), whole.subarray(0, length))
      await expect(verifyPicture(at('part.jpg'))).rejects.toMatchObject({ message: expect.stringContaining('part.jpg') })
    }
  })
})

describe('a JPEG damaged in the middle', () => {
  /** Detailed, so that the middle of the file holds pixels. */
  const detailed = () => {
    const picture = createPicture(600, 400)
    picture.planes.forEach(({ data }, c) =>
      data.forEach((_, i) => (data[i] = 0.5 + 0.45 * Math.sin(i * (0.37 + c * 0.11)) * Math.cos((i % 600) / 7))),
    )
    return picture
  }
  const middle = (whole: Buffer) => Math.floor(whole.length / 2)

  test.each<[string, (whole: Buffer) => Buffer]>([
    ['4 kB missing', (whole) => Buffer.concat([whole.subarray(0, middle(whole)), whole.subarray(middle(whole) + 4096)])],
    ['4 kB zeroed', (whole) => Buffer.from(whole).fill(0, middle(whole), middle(whole) + 4096)],
    [
      '4 kB scrambled',
      (whole) => Buffer.from(whole.map((byte, k) => (k >= middle(whole) && k < middle(whole) + 4096 ? (byte * 7 + k * 13) % 255 : byte))),
    ],
    ['an early end', (whole) => Buffer.concat([whole.subarray(0, middle(whole)), Buffer.from([0xff, 0xd9])])],
    ['a later scan from elsewhere', (whole) => Buffer.concat([whole.subarray(0, middle(whole)), whole.subarray(700)])],
  ])('%s is refused, never half invented', async (_, damage) => {
    await writePicture(at('whole.jpg'), detailed(), { bits: 8 })
    const whole = await readFile(at('whole.jpg'))
    await verifyPicture(at('whole.jpg'))
    await writeFile(at('bad.jpg'), damage(whole))
    await expect(verifyPicture(at('bad.jpg'))).rejects.toMatchObject({ code: 'picture.damaged' })
  })
})

test.each(['png', 'tif deflate', 'tif lzw'])('a file of %s damaged near its begin, in the middle or near its end is refused', async (kind) => {
  const [ending, compression] = kind.split(' ') as [string, 'deflate' | 'lzw' | undefined]
  const samples = Uint16Array.from({ length: 3 * 800 * 600 }, (_, i) => 30000 + Math.round(20000 * Math.sin(i / 50)) + ((i * 7919) % 900))
  const picture = sharp(samples, { raw: { width: 800, height: 600, channels: 3 } }).toColourspace('rgb16')
  const whole = await (compression ? picture.tiff({ compression }) : picture.png()).toBuffer()
  await writeFile(at(`whole.${ending}`), whole)
  await verifyPicture(at(`whole.${ending}`))
  for (const part of [0.1, 0.5, 0.95]) {
    const from = Math.floor(part * whole.length)
    await writeFile(at(`bad.${ending}`), Buffer.from(whole).fill(0x55, from, from + 3000))
    await expect(verifyPicture(at(`bad.${ending}`))).rejects.toMatchObject({ code: 'picture.damaged' })
    // Nor is it half read later, should it be damaged after it came.
    await expect(readSamples(at(`bad.${ending}`))).rejects.toMatchObject({ code: 'picture.damaged' })
  }
})

test('turned pictures and progressive ones are decoded to their end, too', async () => {
  const noise = { type: 'gaussian', mean: 120, sigma: 40 } as const
  for (const [orientation, progressive] of [
    [6, false],
    [1, true],
    [8, true],
  ] as const) {
    // prettier-ignore
    const picture = sharp({ create: { width: 300, height: 200, channels: 3, background: '#808080', noise } })
    const whole = await picture.withMetadata({ orientation }).jpeg({ progressive }).toBuffer()
    await writeFile(at('whole.jpg'), whole)
    await verifyPicture(at('whole.jpg'))
    const near = Math.floor(0.9 * whole.length)
    await writeFile(
      at('bad.jpg'),
      whole.map((byte, k) => (k >= near && k < near + 500 ? (byte * 7 + k * 13) % 255 : byte)),
    )
    await expect(verifyPicture(at('bad.jpg'))).rejects.toMatchObject({ code: 'picture.damaged' })
  }
})

describe('files that would be read wrongly', () => {
  const convert = (...args: string[]) => expect(spawnSync('/usr/bin/convert', args).status).toBe(0)

  test('32-bit samples, several pictures in one file, other colour models and unfit profiles are refused', async () => {
    convert('-size', '8x8', 'xc:red', '-depth', '32', '-define', 'quantum:format=unsigned', at('deep.tif'))
    await expect(readFacts(at('deep.tif'))).rejects.toMatchObject({ code: 'picture.depth' })
    convert('-size', '8x8', 'xc:red', 'xc:blue', at('two.tif'))
    await expect(readFacts(at('two.tif'))).rejects.toMatchObject({ code: 'picture.pages' })
    convert('-size', '80x80', 'xc:red', '(', 'xc:red', '-resize', '20x20!', ')', at('thumb.tif'))
    expect(await readFacts(at('thumb.tif'))).toMatchObject({ width: 80 })
    convert('-size', '8x8', 'xc:red', '-colorspace', 'Lab', at('lab.tif'))
    await expect(readFacts(at('lab.tif'))).rejects.toMatchObject({ code: expect.stringMatching(/^picture\.(depth|colourModel)$/) })
    convert('-size', '8x8', 'xc:red', '-colorspace', 'CMYK', at('cmyk.jpg'))
    await expect(readFacts(at('cmyk.jpg'))).rejects.toMatchObject({ code: 'picture.noCmykProfile' })
    await writePicture(at('unfit.jpg'), gradient(), { bits: 8, icc: Buffer.from(greyProfile('Grey', gammaCurve(2.2))) })
    await expect(readFacts(at('unfit.jpg'))).rejects.toMatchObject({ code: 'picture.wrongProfile' })
  })
})

describe('writing whole', () => {
  test('leaves no parts behind', async () => {
    await writeWhole(at('a.txt'), 'done')
    expect(await readdir(folder)).toEqual(['a.txt'])
  })

  test('leaves what was there when it cannot write', async () => {
    await writeWhole(at('a.txt'), 'first')
    await expect(writeWhole(path.join(at('a.txt'), 'below.txt'), 'x')).rejects.toThrow()
    expect(await readFile(at('a.txt'), 'utf8')).toBe('first')
  })
})

describe('a colour profile', () => {
  const samples = Uint16Array.from({ length: 40 * 30 * 3 }, (_, i) => (i * 977) % 65536)
  const picture = { width: 40, height: 30, samples }
  /** As large as needs two JPEG segments; its inside is of no concern here. */
  const profile = async () => {
    const made = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#abc' } })
      .withIccProfile('p3')
      .jpeg()
      .toBuffer()
    return (await sharp(made).metadata()).icc!
  }

  test.each(['tif', 'png', 'jpg'])('is put into a %s file without touching the picture', async (ending) => {
    const icc = await profile()
    const [plain, tagged] = [at(`plain.${ending}`), at(`tagged.${ending}`)]
    await writePicture(plain, picture, { bits: 16 })
    await writePicture(tagged, picture, { bits: 16, icc, taken: { body: 'Body A' } })
    expect((await readFacts(tagged)).colour.icc).toEqual(icc)
    expect((await readPicture(tagged)).planes[1].data).toEqual((await readPicture(plain)).planes[1].data)
    expect(await sharp(tagged).stats()).toBeDefined()
  })
})
