/** What a profile says its samples are. */
export type ProfileSpace = 'RGB' | 'GRAY' | 'CMYK' | 'other'

/** Columns of an RGB space: what red, green and blue amount to in XYZ, adapted to D50. */
export type Primaries = [red: Xyz, green: Xyz, blue: Xyz]
type Xyz = [number, number, number]

/** Adapted to D50 by Bradford's method, as ICC profiles hold them: sRGB (IEC 61966-2-1), Display P3 (SMPTE EG 432-1) and BT.2020. */
export const SRGB_PRIMARIES: Primaries = [
  [0.43607, 0.22249, 0.01392],
  [0.38515, 0.71687, 0.09708],
  [0.14307, 0.06061, 0.7141],
]
export const P3_PRIMARIES: Primaries = [
  [0.51512, 0.2412, -0.00105],
  [0.29198, 0.69225, 0.04189],
  [0.1571, 0.06657, 0.78407],
]
export const WIDE_PRIMARIES: Primaries = [
  [0.67348, 0.27904, -0.00194],
  [0.16566, 0.67534, 0.02998],
  [0.1251, 0.04561, 0.79686],
]

/** Types of parametric curves by how many numbers they take. */
const CURVE_TYPES: Record<number, number> = { 1: 0, 5: 3 }

/** The curve of sRGB as a parametric curve of type 3: g, a, b, c, d (ICC.1:2022, 10.18). */
export const SRGB_CURVE = parametric([2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045])

/** A curve of one exponent. */
export function gammaCurve(gamma: number): Uint8Array {
  return parametric([gamma])
}

const HEADER_BYTES = 128
const D50: Xyz = [0.9642, 1, 0.8249]
/** From D65 to D50, rows of Bradford's matrix. */
const ADAPTED = [1.04788, 0.02292, -0.05022, 0.02959, 0.99048, -0.01707, -0.00925, 0.01508, 0.75167]

/** What a profile's samples are; `other` where it is no profile of ours to read. Source: ICC.1:2022, 7.2. */
export function profileSpace(profile: Uint8Array): ProfileSpace {
  if (profile.length < HEADER_BYTES + 4 || signature(profile, 36) !== 'acsp') return 'other'
  const space = signature(profile, 16).trim()
  return space === 'RGB' || space === 'GRAY' || space === 'CMYK' ? space : 'other'
}

/** What a profile calls itself, or `a profile without a name`. */
export function profileName(profile: Uint8Array): string {
  const tag = tagOf(profile, 'desc')
  const name = tag && (signature(tag, 0) === 'desc' ? asciiName(tag) : signature(tag, 0) === 'mluc' ? unicodeName(tag) : '')
  return name?.replaceAll('\0', '').trim() || 'a profile without a name'
}

/**
 * An RGB profile by primaries and one curve for all three channels. Source: ICC.1:2022, 8.3.3 (three-component matrix).
 * @param curve a whole `curv` or `para` element.
 */
export function matrixProfile(name: string, [red, green, blue]: Primaries, curve: Uint8Array): Uint8Array {
  return profileOf('RGB ', name, [
    ['rXYZ', xyz(red)],
    ['gXYZ', xyz(green)],
    ['bXYZ', xyz(blue)],
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve],
    ['chad', fixedArray('sf32', ADAPTED)],
  ])
}

/** A grey profile by its curve. Source: ICC.1:2022, 8.3.4 (monochrome). */
export function greyProfile(name: string, curve: Uint8Array): Uint8Array {
  return profileOf('GRAY', name, [['kTRC', curve]])
}

/**
 * The profile in which equal red, green and blue look as a grey sample does in `grey`: so grey pictures become RGB without a
 * sample being changed. Undefined where the profile does not tell its grey by a curve to luminance.
 */
export function greyAsRgb(grey: Uint8Array): Uint8Array | undefined {
  const curve = tagOf(grey, 'kTRC')
  if (!curve || signature(grey, 20) !== 'XYZ ') return undefined
  return matrixProfile(profileName(grey), SRGB_PRIMARIES, curve)
}

/**
 * How samples of an RGB profile become light: its red curve at `count` even steps from 0 to 1, and what its red, green and blue add to
 * luminance, together 1; and the primaries themselves. Undefined where the profile is not made of curves and primaries. Source: ICC.1:2022, 10.6 and 10.18.
 */
export function profileLight(
  profile: Uint8Array,
  count: number,
): { curve: Float64Array; luminance: [number, number, number]; primaries: Primaries } | undefined {
  if (profileSpace(profile) !== 'RGB') return undefined
  const curve = tagOf(profile, 'rTRC')
  const light = curve && curveOf(curve)
  const tags = ['rXYZ', 'gXYZ', 'bXYZ'].flatMap((tag) => tagOf(profile, tag, 20) ?? [])
  if (!light || tags.length < 3) return undefined
  const primaries = tags.map((tag) => [8, 12, 16].map((at) => viewOf(tag).getInt32(at) / 65536)) as Primaries
  const sum = primaries.reduce((all, [, y]) => all + y, 0)
  const [red, green, blue] = primaries.map(([, y]) => y / sum)
  return { curve: Float64Array.from({ length: count }, (_, k) => light(k / (count - 1))), luminance: [red, green, blue], primaries }
}

/** A curve element as a function of 0 … 1; undefined where it is of another kind, or cut short. Source: ICC.1:2022, 10.6 (curv) and 10.18 (para). */
function curveOf(tag: Uint8Array): ((value: number) => number) | undefined {
  const view = viewOf(tag)
  if (tag.length < 12) return undefined
  if (signature(tag, 0) === 'curv') {
    const count = view.getUint32(8)
    if (12 + 2 * count > tag.length) return undefined
    if (count === 0) return (value) => value
    if (count === 1) return (value) => value ** (view.getUint16(12) / 256)
    const at = (k: number) => view.getUint16(12 + 2 * Math.min(count - 1, k)) / 65535
    return (value) => {
      const place = value * (count - 1)
      const k = Math.floor(place)
      return at(k) + (place - k) * (at(k + 1) - at(k))
    }
  }
  if (signature(tag, 0) !== 'para') return undefined
  // The first types have fewer numbers.
  const number = (k: number) => (16 + 4 * k <= view.byteLength ? view.getInt32(12 + 4 * k) / 65536 : 0)
  const [g, a, b, c] = [number(0), number(1), number(2), number(3)]
  switch (view.getUint16(8)) {
    case 0:
      return (value) => value ** g
    case 1:
      return (value) => (value >= -b / a ? (a * value + b) ** g : 0)
    case 2:
      return (value) => (value >= -b / a ? (a * value + b) ** g + c : c)
    case 3:
      return (value) => (value >= number(4) ? (a * value + b) ** g : c * value)
    case 4:
      return (value) => (value >= number(4) ? (a * value + b) ** g + number(5) : c * value + number(6))
    default:
      return undefined
  }
}

const viewOf = ({ buffer, byteOffset, byteLength }: Uint8Array) => new DataView(buffer, byteOffset, byteLength)

export const SRGB_PROFILE = matrixProfile('sRGB', SRGB_PRIMARIES, SRGB_CURVE)

function profileOf(space: string, name: string, tags: [string, Uint8Array][]): Uint8Array {
  const all: [string, Uint8Array][] = [['desc', localised(name)], ['cprt', localised('No copyright, use freely')], ['wtpt', xyz(D50)], ...tags]
  const table = HEADER_BYTES + 4 + 12 * all.length
  const places: number[] = []
  let length = table
  for (const [, bytes] of all) {
    places.push(length)
    length += (bytes.length + 3) & ~3
  }
  const out = new Uint8Array(length)
  const view = new DataView(out.buffer)
  view.setUint32(0, length)
  view.setUint32(8, 0x04300000)
  write(out, 12, 'mntr')
  write(out, 16, space)
  write(out, 20, 'XYZ ')
  write(out, 36, 'acsp')
  // A date is asked for; a fixed one keeps the bytes the same.
  ;[2026, 1, 1].forEach((part, k) => view.setUint16(24 + 2 * k, part))
  D50.forEach((value, k) => view.setInt32(68 + 4 * k, fixed(value)))
  view.setUint32(HEADER_BYTES, all.length)
  all.forEach(([tag, bytes], k) => {
    write(out, HEADER_BYTES + 4 + 12 * k, tag)
    view.setUint32(HEADER_BYTES + 8 + 12 * k, places[k])
    view.setUint32(HEADER_BYTES + 12 + 12 * k, bytes.length)
    out.set(bytes, places[k])
  })
  return out
}

/** An element of a profile by its tag, with its four letters of type; undefined where it has fewer than `bytes`. */
function tagOf(profile: Uint8Array, tag: string, bytes = 8): Uint8Array | undefined {
  if (profileSpace(profile) === 'other') return undefined
  const view = new DataView(profile.buffer, profile.byteOffset, profile.byteLength)
  const count = Math.min(view.getUint32(HEADER_BYTES), 200)
  for (let k = 0; k < count; k++) {
    const at = HEADER_BYTES + 4 + 12 * k
    if (at + 12 > profile.length) return undefined
    if (signature(profile, at) !== tag) continue
    const [from, length] = [view.getUint32(at + 4), view.getUint32(at + 8)]
    return length >= bytes && from + length <= profile.length ? profile.subarray(from, from + length) : undefined
  }
  return undefined
}

function asciiName(tag: Uint8Array): string {
  if (tag.length < 12) return ''
  const length = new DataView(tag.buffer, tag.byteOffset, tag.byteLength).getUint32(8)
  return String.fromCharCode(...tag.subarray(12, Math.min(tag.length, 12 + length, 200)))
}

function unicodeName(tag: Uint8Array): string {
  const view = new DataView(tag.buffer, tag.byteOffset, tag.byteLength)
  if (tag.length < 28) return ''
  const [length, from] = [view.getUint32(20), view.getUint32(24)]
  const codes: number[] = []
  for (let at = from; at + 1 < Math.min(tag.length, from + length, from + 200); at += 2) codes.push(view.getUint16(at))
  return String.fromCharCode(...codes)
}

function localised(text: string): Uint8Array {
  const out = new Uint8Array(28 + 2 * text.length)
  const view = new DataView(out.buffer)
  write(out, 0, 'mluc')
  view.setUint32(8, 1)
  view.setUint32(12, 12)
  write(out, 16, 'enUS')
  view.setUint32(20, 2 * text.length)
  view.setUint32(24, 28)
  for (let k = 0; k < text.length; k++) view.setUint16(28 + 2 * k, text.charCodeAt(k))
  return out
}

function parametric(numbers: number[]): Uint8Array {
  const out = new Uint8Array(12 + 4 * numbers.length)
  const view = new DataView(out.buffer)
  write(out, 0, 'para')
  view.setUint16(8, CURVE_TYPES[numbers.length])
  numbers.forEach((value, k) => view.setInt32(12 + 4 * k, fixed(value)))
  return out
}

function xyz(values: Xyz): Uint8Array {
  return fixedArray('XYZ ', values)
}

function fixedArray(type: string, values: number[]): Uint8Array {
  const out = new Uint8Array(8 + 4 * values.length)
  write(out, 0, type)
  values.forEach((value, k) => new DataView(out.buffer).setInt32(8 + 4 * k, fixed(value)))
  return out
}

/** Signed numbers of 16 bits before and 16 behind the point. */
function fixed(value: number): number {
  return Math.round(value * 65_536)
}

function signature(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + 4))
}

function write(out: Uint8Array, at: number, letters: string): void {
  for (let k = 0; k < letters.length; k++) out[at + k] = letters.charCodeAt(k)
}
