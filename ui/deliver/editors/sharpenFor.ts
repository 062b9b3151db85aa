/** What a picture is sharpened for. */
export type Use = { kind: 'screen' } | { kind: 'print'; width_mm: number; away_cm: number; width_px: number }

/** An eye tells apart what is so many radians apart: one minute of arc, the usual figure of sight tests (ISO 8596). */
const EYE_rad = Math.PI / 180 / 60

/**
 * How wide and how strongly to sharpen. A print spreads ink over about what an eye tells apart at its distance: the blur that is taken back
 * is half of that, and as nothing finer is seen, it is taken back the stronger, the wider it is.
 */
export function sharpenFor(use: Use): { radius_px: number; amount: number } {
  if (use.kind === 'screen') return { radius_px: 0.6, amount: 0.5 }
  const seen_mm = EYE_rad * use.away_cm * 10
  const radius_px = Math.min(8, Math.max(0.5, (seen_mm * use.width_px) / use.width_mm / 2))
  return { radius_px: Number(radius_px.toFixed(2)), amount: radius_px > 1 ? 0.9 : 0.7 }
}
