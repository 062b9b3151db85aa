import { inchesText, MM_PER_INCH } from './inches'

/** The two ways in which lengths are read. */
export type UnitSystem = 'metric' | 'inches'

/**
 * A length for reading. Metric: µm below 0.1 mm, mm below 1 m, else metres. Inches: decimals below one inch, fractions
 * of a ruler beyond, feet from a yard on. ∞ for no end.
 */
export function lengthText(length_mm: number, system: UnitSystem = 'metric'): string {
  if (!Number.isFinite(length_mm)) return '∞'
  const size = Math.abs(length_mm)
  if (size !== 0 && size < 0.0995) return `${significant(length_mm * 1000, 3)} µm`
  if (system === 'inches') return size < MM_PER_INCH ? `${signed((length_mm / MM_PER_INCH).toFixed(3))}″` : inchesText(length_mm)
  if (size < 1000) return `${significant(length_mm, 3)} mm`
  return `${significant(length_mm / 1000, 3)} m`
}

/** A place on an axis or a ruler, with the decimals that tell neighbours apart: `−0.27 mm`, `0.012″`. */
export function placeText(length_mm: number, system: UnitSystem = 'metric'): string {
  if (!Number.isFinite(length_mm)) return '∞'
  if (system === 'inches') return `${signed((length_mm / MM_PER_INCH).toFixed(3))}″`
  return `${signed(length_mm.toFixed(2))} mm`
}

/** Exposure times as cameras show them: `1/8 s`, `0.4 s`, `5 s`; above half a minute by the clock, `bulb, 64 s`. */
export function exposureText(exposure_s: number): string {
  if (exposure_s <= 0) return '0 s'
  if (exposure_s > 30) return `bulb, ${Math.round(exposure_s)} s`
  if (exposure_s >= 0.3) return `${significant(exposure_s, 2)} s`
  return `1/${significant(1 / exposure_s, 2)} s`
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

/** Day and minute, as the reader's clock shows them: for telling apart what was made on one day. */
export function momentText(iso: string, timeZone?: string): string {
  return new Date(iso).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZone })
}

/** The minute, as the reader's clock shows it. */
export function clockText(iso: string, timeZone?: string): string {
  return new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone })
}

/** Up to `digits` significant figures, without trailing zeros or exponents. */
export function significant(value: number, digits: number): string {
  if (value === 0) return '0'
  const decimals = Math.max(0, digits - 1 - Math.floor(Math.log10(Math.abs(value))))
  return String(Number(value.toFixed(Math.min(decimals, 12))))
}

function signed(text: string): string {
  return text.replace(/^-(?=0[.]?0*$)/, '').replace('-', '−')
}
