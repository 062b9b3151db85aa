/** A length for reading: µm below 0.1 mm, mm below 1 m, else metres; ∞ for no end. */
export function lengthText(length_mm: number): string {
  if (!Number.isFinite(length_mm)) return '∞'
  const size = Math.abs(length_mm)
  if (size !== 0 && size < 0.0995) return `${significant(length_mm * 1000, 3)} µm`
  if (size < 1000) return `${significant(length_mm, 3)} mm`
  return `${significant(length_mm / 1000, 3)} m`
}

/** Bytes given in MB, for reading. */
export function storageText(size_MB: number): string {
  return size_MB < 1000 ? `${significant(size_MB, 3)} MB` : `${significant(size_MB / 1000, 3)} GB`
}

/** Seconds for reading: `48 s`, `3 min 10 s`, `1 h 5 min`. */
export function durationText(duration_s: number): string {
  const whole = Math.round(duration_s)
  if (whole < 60) return `${whole} s`
  if (whole < 3600) return `${Math.floor(whole / 60)} min${whole % 60 ? ` ${whole % 60} s` : ''}`
  return `${Math.floor(whole / 3600)} h ${Math.floor((whole % 3600) / 60)} min`
}

/** An f-number as lenses mark it. */
export function apertureText(fNumber: number): string {
  return `f/${significant(fNumber, fNumber < 10 ? 2 : 3)}`
}

export function dateText(iso: string): string {
  return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })
}

/** Up to `digits` significant figures, without trailing zeros or exponents. */
export function significant(value: number, digits: number): string {
  if (value === 0) return '0'
  const decimals = Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value))))
  return String(Number(value.toFixed(Math.min(decimals, 12))))
}
