import { inchesText, MM_PER_INCH, parseLength_mm, significant, type LengthUnit, type UnitSystem } from '@/core/units'

/** How near a subject is, and with that the unit its lengths are written in. */
export type LengthScale = 'close' | 'far'

/** The unit of a bare number in a field. */
export function bareUnit(scale: LengthScale, system: UnitSystem): LengthUnit {
  if (system === 'inches') return scale === 'close' ? 'in' : 'ft'
  return scale === 'close' ? 'mm' : 'm'
}

/** A length as it stands in a field: a plain number in the field's unit, or a ruler's fractions where they say the same. */
export function editText(length_mm: number | null, scale: LengthScale, system: UnitSystem): string {
  if (length_mm === null || !Number.isFinite(length_mm)) return ''
  if (system === 'metric') return significant(scale === 'close' ? length_mm : length_mm / 1000, 6)
  const ruler = inchesText(length_mm)
  const agrees = Math.abs(parseLength_mm(ruler)! - length_mm) <= (scale === 'close' ? 0.05 : 1)
  return agrees ? ruler : `${significant(length_mm / MM_PER_INCH, 4)}″`
}

/** What was typed, in mm: null where nothing or ∞ stands there, NaN where it is no length. */
export function readLength_mm(text: string, scale: LengthScale, system: UnitSystem): number | null {
  if (['', '∞'].includes(text.trim())) return null
  return parseLength_mm(text, bareUnit(scale, system)) ?? NaN
}
