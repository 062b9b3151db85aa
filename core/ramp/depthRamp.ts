/**
 * The one colour scale for depth, 0 = near … 1 = far: from a light straw over rust and plum to a deep blue. Lightness
 * in OKLCH falls evenly, so it reads in grey and to colour-blind eyes; hue only helps.
 * OKLab after Ottosson (2020), sRGB after IEC 61966-2-1.
 */
const NEAR = { lightness: 0.9, chroma: 0.085, hue_deg: 92 }
const FAR = { lightness: 0.32, chroma: 0.115, hue_deg: -88 }
const MIDDLE_CHROMA = 0.135

/** sRGB bytes of a depth 0 … 1; values beyond are clipped. */
export function depthColour(depth: number): [number, number, number] {
  const t = Math.min(1, Math.max(0, Number.isFinite(depth) ? depth : 0))
  const bow = 4 * t * (1 - t)
  const ends = NEAR.chroma + t * (FAR.chroma - NEAR.chroma)
  return fromOklch(
    NEAR.lightness + t * (FAR.lightness - NEAR.lightness),
    ends + bow * (MIDDLE_CHROMA - ends),
    NEAR.hue_deg + t * (FAR.hue_deg - NEAR.hue_deg),
  )
}

/** The same as a CSS colour. */
export function depthCss(depth: number): string {
  return `rgb(${depthColour(depth).join(' ')})`
}

/** Place of a frame on the ramp: the first of `count` is 0, the last 1. */
export function rampPlace(index: number, count: number): number {
  return count > 1 ? index / (count - 1) : 0.5
}

function fromOklch(lightness: number, chroma: number, hue_deg: number): [number, number, number] {
  const a = chroma * Math.cos((hue_deg * Math.PI) / 180)
  const b = chroma * Math.sin((hue_deg * Math.PI) / 180)
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3
  return [
    byte(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    byte(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    byte(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
  ]
}

function byte(linear: number): number {
  const v = Math.min(1, Math.max(0, linear))
  return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055))
}
