import { lengthText, type UnitSystem } from '../units'

/**
 * Distances engraved on a lens's scale, in mm, near to far, from what the kit says in metres: `0.25 0.3 0.5 1 ∞`. What is no distance
 * is left out.
 */
export function marksOf_mm(text: string): number[] {
  return text
    .split(/[\s;]+/)
    .map((part) => (part === '∞' ? Infinity : Number(part.replace(',', '.')) * 1000))
    .filter((mm) => mm > 0)
    .sort((a, b) => a - b)
}

/** Parts of the way between two marks that an eye can find. */
const PARTS = [
  { at: 0, words: '' },
  { at: 1 / 4, words: 'a quarter of the way from' },
  { at: 1 / 3, words: 'a third of the way from' },
  { at: 1 / 2, words: 'halfway from' },
  { at: 2 / 3, words: 'two thirds of the way from' },
  { at: 3 / 4, words: 'three quarters of the way from' },
  { at: 1, words: '' },
]

/**
 * What to set on a scale with these marks: a mark, or a part of the way between two that an eye can find. A ring turns about evenly in
 * one over the distance.
 */
export function scaleReading(distance_mm: number, marks_mm: number[], system: UnitSystem = 'metric'): string {
  const text = (mm: number) => lengthText(mm, system)
  const last = marks_mm.length - 1
  if (distance_mm <= marks_mm[0]) return distance_mm < marks_mm[0] * 0.98 ? `nearer than ${text(marks_mm[0])}` : text(marks_mm[0])
  if (distance_mm >= marks_mm[last]) return distance_mm > marks_mm[last] * 1.02 ? `beyond ${text(marks_mm[last])}` : text(marks_mm[last])
  const k = marks_mm.findIndex((mark) => mark > distance_mm)
  const [near, far] = [marks_mm[k - 1], marks_mm[k]]
  const t = (1 / near - 1 / distance_mm) / (1 / near - 1 / far)
  const part = PARTS.reduce((best, next) => (Math.abs(next.at - t) < Math.abs(best.at - t) ? next : best))
  if (part.at === 0) return text(near)
  return part.at === 1 ? text(far) : `${part.words} ${text(near)} to ${text(far)}`
}
