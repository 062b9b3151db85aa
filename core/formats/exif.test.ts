import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { asciiEntry, directoryBytes, exifBlock, exifEntries, longEntry, mainEntries, UNDEFINED, type TakenWith } from '.'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'exif-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

/** A block as another reader of EXIF understands it: numbers as they stand there, and what it complains of. */
function readElsewhere(block: Uint8Array): Record<string, unknown> {
  // A block alone is a TIFF without a picture.
  const file = path.join(folder, 'block.tif')
  writeFileSync(file, block)
  const [tags] = JSON.parse(execFileSync('exiftool', ['-j', '-n', file], { encoding: 'utf8' })) as [Record<string, unknown>]
  return tags
}

const WHOLE: TakenWith = {
  body: 'Body A',
  lens: 'Macro 100 mm',
  taken_at: '2026-05-11T09:30:04.250Z',
  exposure_s: 1 / 125,
  fNumber: 5.6,
  focalLength_mm: 100,
  iso: 200,
}

describe('a block that another reader understands', () => {
  test('says everything that is known, and nothing is wrong with it', () => {
    const tags = readElsewhere(exifBlock(WHOLE, 'Nitidus'))
    expect(tags).toMatchObject({
      Model: 'Body A',
      LensModel: 'Macro 100 mm',
      Software: 'Nitidus',
      DateTimeOriginal: '2026:05:11 09:30:04',
      ModifyDate: '2026:05:11 09:30:04',
      ExposureTime: 0.008,
      FNumber: 5.6,
      FocalLength: 100,
      ISO: 200,
      ExifVersion: '0232',
      ExifByteOrder: 'II',
    })
    expect([tags.Warning, tags.Error]).toEqual([undefined, undefined])
  })

  test.each(Object.keys(WHOLE) as (keyof TakenWith)[])('leaves out %s where it is not known, and keeps the rest', (missing) => {
    const tags = readElsewhere(exifBlock({ ...WHOLE, [missing]: undefined }, 'Nitidus'))
    const NAMES: Record<keyof TakenWith, string> = {
      body: 'Model',
      lens: 'LensModel',
      taken_at: 'DateTimeOriginal',
      exposure_s: 'ExposureTime',
      fNumber: 'FNumber',
      focalLength_mm: 'FocalLength',
      iso: 'ISO',
    }
    const there = Object.entries(NAMES).filter(([, name]) => name in tags)
    expect(there.map(([fact]) => fact)).toEqual(Object.keys(NAMES).filter((fact) => fact !== missing))
    expect(tags.Warning).toBeUndefined()
  })

  test('may know nothing at all', () => {
    const tags = readElsewhere(exifBlock({}, 'Nitidus'))
    expect(tags).toMatchObject({ Software: 'Nitidus', ExifVersion: '0232' })
    expect('FNumber' in tags).toBe(false)
  })

  // As shutters are marked, and as long exposures are timed.
  test.each([1 / 8000, 1 / 250, 1 / 13, 1 / 3, 0.4, 0.77, 1, 1.3, 30, 242.5])('an exposure of %d s comes back', (exposure_s) => {
    const { ExposureTime } = readElsewhere(exifBlock({ exposure_s }, 'x'))
    expect(Math.abs((ExposureTime as number) / exposure_s - 1)).toBeLessThan(0.005)
  })

  test.each([0.95, 1.4, 2.8, 11, 22, 256])('an aperture of f/%d comes back', (fNumber) => {
    expect(readElsewhere(exifBlock({ fNumber }, 'x')).FNumber).toBeCloseTo(fNumber, 2)
  })

  test('a speed beyond 16 bits stays at the most that fits', () => {
    expect(readElsewhere(exifBlock({ iso: 409_600 }, 'x')).ISO).toBe(65_535)
    expect(readElsewhere(exifBlock({ iso: 102.4 }, 'x')).ISO).toBe(102)
  })

  test('names of other alphabets become question marks, never broken entries', () => {
    const tags = readElsewhere(exifBlock({ body: 'Gehäuse 😀 B', lens: 'Объектив' }, 'x'))
    expect([tags.Model, tags.LensModel]).toEqual(['Geh?use ? B', '????????'])
    expect(tags.Warning).toBeUndefined()
  })

  test('long names are kept whole', () => {
    const body = 'A body with a name of many words, '.repeat(20).trim()
    expect(readElsewhere(exifBlock({ body }, 'x')).Model).toBe(body)
  })
})

describe('directories', () => {
  test.each([true, false])('lie in the byte order that is asked for (little-endian: %s), sorted, with what is long behind them', (little) => {
    const main = [...mainEntries({ body: 'Body A' }, 'Nitidus'), longEntry(0x8769, 0, little)]
    const HEADER = 8
    const inside = HEADER + directoryBytes(main, HEADER, little).length
    main[main.length - 1] = longEntry(0x8769, inside, little)
    const start = little ? [0x49, 0x49, 42, 0, 8, 0, 0, 0] : [0x4d, 0x4d, 0, 42, 0, 0, 0, 8]
    const block = Uint8Array.from([...start, ...directoryBytes(main, HEADER, little), ...directoryBytes(exifEntries(WHOLE, little), inside, little)])
    expect(readElsewhere(block)).toMatchObject({
      Model: 'Body A',
      ExifByteOrder: little ? 'II' : 'MM',
      FNumber: 5.6,
      ExposureTime: 0.008,
      LensModel: 'Macro 100 mm',
    })
  })

  test('what is no longer than four bytes stands in the entry itself, and each value behind begins at an even byte', () => {
    const bytes = directoryBytes([asciiEntry(0x0131, 'odd'), asciiEntry(0x0110, 'seven77'), asciiEntry(0x010f, 'fours')], 100, true)
    const view = new DataView(bytes.buffer)
    expect(view.getUint16(0, true)).toBe(3)
    const entries = [0, 1, 2].map((k) => ({ tag: view.getUint16(2 + 12 * k, true), at: view.getUint32(10 + 12 * k, true) }))
    expect(entries.map(({ tag }) => tag)).toEqual([0x010f, 0x0110, 0x0131])
    for (const { at } of entries.slice(0, 2)) expect([at % 2, at >= 100 + 2 + 36 + 4]).toEqual([0, true])
    // `odd` and its zero are four bytes.
    expect(Buffer.from(bytes.subarray(2 + 24 + 8, 2 + 24 + 12)).toString('latin1')).toBe('odd\0')
    expect(view.getUint32(2 + 36, true)).toBe(0)
  })

  test('the place of the next directory stands behind the entries', () => {
    const entry = { tag: 1, type: UNDEFINED, count: 2, bytes: Uint8Array.of(7, 9) }
    const bytes = directoryBytes([entry], 8, true, 4711)
    expect(new DataView(bytes.buffer).getUint32(2 + 12, true)).toBe(4711)
    expect([...bytes.subarray(10, 14)]).toEqual([7, 9, 0, 0])
  })
})
