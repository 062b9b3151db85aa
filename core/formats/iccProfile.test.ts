import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import * as fc from 'fast-check'
import {
  gammaCurve,
  greyAsRgb,
  greyProfile,
  matrixProfile,
  P3_PRIMARIES,
  profileLight,
  profileName,
  profileSpace,
  SRGB_CURVE,
  SRGB_PRIMARIES,
  SRGB_PROFILE,
  WIDE_PRIMARIES,
} from '.'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'icc-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

/** What the colour library of Python's imaging library makes of a profile: its name, its space, and samples of it in sRGB. */
function readElsewhere(profile: Uint8Array, mode: 'RGB' | 'L', samples: number[]): { name: string; space: string; inSrgb: number[] } {
  const file = path.join(folder, 'profile.icc')
  writeFileSync(file, profile)
  const script = `
import json, sys
from PIL import Image, ImageCms
of = ImageCms.getOpenProfile(${JSON.stringify(file)})
picture = Image.new(${JSON.stringify(mode)}, (1, 1), ${mode === 'L' ? samples[0] : `(${samples.join(', ')})`})
made = ImageCms.profileToProfile(picture, of, ImageCms.createProfile("sRGB"), renderingIntent=1, outputMode="RGB")
print(json.dumps({"name": ImageCms.getProfileDescription(of).strip(), "space": of.profile.xcolor_space.strip(), "inSrgb": list(made.getpixel((0, 0)))}))
`
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', script], { encoding: 'utf8' })) as { name: string; space: string; inSrgb: number[] }
}

const encoded = (light: number) => 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)
const decoded = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4)

describe('profiles that we write', () => {
  test.each([
    ['sRGB', SRGB_PRIMARIES, SRGB_CURVE],
    ['P3', P3_PRIMARIES, SRGB_CURVE],
    ['Wide', WIDE_PRIMARIES, gammaCurve(1.8)],
  ])('%s is read by another library under its name, as RGB, and its greys stay grey', (name, primaries, curve) => {
    const profile = matrixProfile(name, primaries, curve)
    const { inSrgb, ...read } = readElsewhere(profile, 'RGB', [120, 120, 120])
    expect(read).toEqual({ name, space: 'RGB' })
    const light = profileLight(profile, 256)!.curve[120]
    for (const value of inSrgb) expect(Math.abs(value - encoded(light))).toBeLessThanOrEqual(1)
    expect([profileName(profile), profileSpace(profile)]).toEqual([name, 'RGB'])
  })

  test('sRGB gives every colour back as it is', () => {
    expect(readElsewhere(SRGB_PROFILE, 'RGB', [200, 90, 31]).inSrgb.map((value, c) => Math.abs(value - [200, 90, 31][c]) <= 1)).toEqual([
      true,
      true,
      true,
    ])
  })

  test('red of P3 lies beyond red of sRGB, as its primaries say', () => {
    const [red, green, blue] = readElsewhere(matrixProfile('P3', P3_PRIMARIES, SRGB_CURVE), 'RGB', [200, 60, 60]).inSrgb
    expect(red).toBeGreaterThan(208)
    expect(Math.max(green, blue)).toBeLessThan(58)
  })

  test('a grey profile is grey to others, and as RGB it shows the same', () => {
    const grey = greyProfile('Grey 1.8', gammaCurve(1.8))
    const read = readElsewhere(grey, 'L', [100])
    expect([read.name, read.space]).toEqual(['Grey 1.8', 'GRAY'])
    const rgb = greyAsRgb(grey)!
    expect(profileSpace(rgb)).toBe('RGB')
    readElsewhere(rgb, 'RGB', [100, 100, 100]).inSrgb.forEach((value, c) => expect(Math.abs(value - read.inSrgb[c])).toBeLessThanOrEqual(1))
  })
})

describe('what samples of a profile are in light', () => {
  test('the curve of sRGB is its formula, from black to white', () => {
    const { curve } = profileLight(SRGB_PROFILE, 1024)!
    curve.forEach((light, k) => expect(light).toBeCloseTo(decoded(k / 1023), 4))
    expect([curve[0], curve[1023]].map((light) => Number(light.toFixed(4)))).toEqual([0, 1])
  })

  test('one exponent is that power, and luminance is the middle row of the primaries', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 3, noNaN: true }), (gamma) => {
        const { curve, luminance, primaries } = profileLight(matrixProfile('x', WIDE_PRIMARIES, gammaCurve(gamma)), 64)!
        curve.forEach((light, k) => expect(light).toBeCloseTo((k / 63) ** gamma, 3))
        expect(luminance.reduce((sum, part) => sum + part)).toBeCloseTo(1, 6)
        luminance.forEach((part, c) => expect(part).toBeCloseTo(WIDE_PRIMARIES[c][1], 3))
        primaries.flat().forEach((value, k) => expect(value).toBeCloseTo(WIDE_PRIMARIES.flat()[k], 4))
      }),
      { numRuns: 25 },
    )
  })

  test('a curve given as a table goes straight from one entry to the next', () => {
    const table = Uint8Array.from([...Buffer.from('curv\0\0\0\0'), 0, 0, 0, 3, 0, 0, 0x40, 0, 0xff, 0xff])
    const { curve } = profileLight(matrixProfile('table', SRGB_PRIMARIES, table), 5)!
    expect([...curve].map((light) => Number(light.toFixed(3)))).toEqual([0, 0.125, 0.25, 0.625, 1])
  })

  test.each([
    ['nothing', new Uint8Array(0)],
    ['a few letters', new Uint8Array(Buffer.from('no profile'))],
    ['a grey profile', greyProfile('Grey', gammaCurve(2.2))],
    ['one cut short', SRGB_PROFILE.subarray(0, 200)],
    ['one whose red has no room for its numbers', shortened('rXYZ')],
    ['one whose curve has no room for its numbers', shortened('rTRC')],
    ['a table with more entries than bytes', matrixProfile('x', SRGB_PRIMARIES, Uint8Array.from([...Buffer.from('curv\0\0\0\0'), 0, 0, 0, 9, 0, 0]))],
  ])('of %s nothing is said', (_, profile) => {
    expect(profileLight(profile, 16)).toBeUndefined()
    expect(greyAsRgb(SRGB_PROFILE)).toBeUndefined()
  })

  test('one whose name has no room for its length has no name', () => {
    const profile = shortened('desc')
    profile.set(Buffer.from('desc'), new DataView(profile.buffer).getUint32(Buffer.from(profile).indexOf('desc') + 4))
    expect(profileName(profile)).toBe('a profile without a name')
  })

  test('whatever bytes stand in a profile, it is read or refused, and never fails', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(SRGB_PROFILE.length - 1), fc.nat(255)), { maxLength: 40 }),
        fc.nat(SRGB_PROFILE.length),
        (changes, length) => {
          const profile = SRGB_PROFILE.slice(0, length)
          for (const [at, byte] of changes) if (at < length) profile[at] = byte
          expect(['RGB', 'GRAY', 'CMYK', 'other']).toContain(profileSpace(profile))
          expect(typeof profileName(profile)).toBe('string')
          const light = profileLight(profile, 8)
          expect(light === undefined || light.curve.length === 8).toBe(true)
          greyAsRgb(profile)
        },
      ),
      { numRuns: 400 },
    )
  })
})

/** The profile of sRGB in which an element says that it has 8 bytes. */
function shortened(tag: string): Uint8Array {
  const profile = SRGB_PROFILE.slice()
  new DataView(profile.buffer).setUint32(Buffer.from(profile).indexOf(tag) + 8, 8)
  return profile
}
