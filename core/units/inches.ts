export const MM_PER_INCH = 25.4

/** Rulers are read to a sixteenth of an inch. */
const FINEST = 16

/**
 * A length as a ruler in inches shows it, rounded to a sixteenth: `3 5/16″`, `0″`, `−1/2″`. From a yard on in feet and
 * inches, `5′ 7 1/2″`; lengths of ten feet and more are rounded to whole inches.
 */
export function inchesText(length_mm: number): string {
  if (!Number.isFinite(length_mm)) return '∞'
  const sixteenths = Math.round((Math.abs(length_mm) / MM_PER_INCH) * FINEST)
  const sign = length_mm < 0 && sixteenths > 0 ? '−' : ''
  if (sixteenths >= 120 * FINEST) return sign + feetText(Math.round(sixteenths / FINEST), 0)
  const whole = Math.floor(sixteenths / FINEST)
  return sign + (whole >= 36 ? feetText(whole, sixteenths % FINEST) : mixed(whole, sixteenths % FINEST))
}

function feetText(whole: number, rest: number): string {
  const inches = whole % 12
  return `${Math.floor(whole / 12)}′${inches > 0 || rest > 0 ? ` ${mixed(inches, rest)}` : ''}`
}

/** Whole inches and sixteenths, reduced. */
function mixed(whole: number, rest: number): string {
  if (rest === 0) return `${whole}″`
  const divisor = greatestCommonDivisor(rest, FINEST)
  const fraction = `${rest / divisor}/${FINEST / divisor}″`
  return whole > 0 ? `${whole} ${fraction}` : fraction
}

export type LengthUnit = 'mm' | 'm' | 'in' | 'ft'

const UNITS_MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
  ft: 12 * MM_PER_INCH,
  "'": 12 * MM_PER_INCH,
  '′': 12 * MM_PER_INCH,
}

/**
 * Reads a length as people write it: `12`, `12 mm`, `1.5 m`, `3 5/16"`, `5/8 in`, `2' 4 1/2"`. A bare number is in
 * `bare` units.
 * @returns millimetres, or undefined where the text is no length or mixes metric with inches.
 */
export function parseLength_mm(text: string, bare: LengthUnit = 'mm'): number | undefined {
  const parts = [
    ...text
      .trim()
      .replace(',', '.')
      .matchAll(/(\d+\s+\d+\/\d+|\d+\/\d+|\d*\.?\d+)\s*(mm|cm|m|in|ft|["″'′])?\s*/gy),
  ]
  if (parts.length === 0 || parts.map(([whole]) => whole).join('') !== text.trim().replace(',', '.')) return undefined
  const units = parts.map(([, , unit]) => unit ?? bare)
  const metric = units.map((unit) => /m/.test(unit))
  if (metric.some((value) => value !== metric[0])) return undefined
  const total = parts.reduce((sum, [, number], k) => sum + numberOf(number) * UNITS_MM[units[k]], 0)
  return Number.isFinite(total) ? total : undefined
}

function numberOf(text: string): number {
  return text.split(/\s+/).reduce((sum, part) => {
    const [over, under] = part.split('/').map(Number)
    return sum + (under === undefined ? over : over / under)
  }, 0)
}

function greatestCommonDivisor(a: number, b: number): number {
  return b === 0 ? a : greatestCommonDivisor(b, a % b)
}
