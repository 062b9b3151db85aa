import { refusal } from '../words'
import type { Canvas, Tools } from './canvas'
import type { StepOf } from './recipe'

/** Parts of the picture's shorter side: margin, thickness of the bar, height of the words. */
const [MARGIN, THICK, HIGH] = [1 / 30, 1 / 150, 1 / 36]
/** What is behind bar and words keeps this part of its sample. */
const PLATE = 0.35

/** What stands beside a bar: its length in the unit that reads best. */
export function barText(length_mm: number): string {
  const [value, unit] = length_mm < 1 ? [length_mm * 1000, 'µm'] : length_mm < 10 ? [length_mm, 'mm'] : [length_mm / 10, 'cm']
  return `${Number(value.toPrecision(3))} ${unit}`
}

/** A round length of some fifth of a picture so many mm wide: 1, 2 or 5 of a power of ten. */
export function roundLength_mm(width_mm: number): number {
  const about = width_mm / 5
  const ten = 10 ** Math.floor(Math.log10(about))
  return Number((ten * ([5, 2, 1].find((times) => times * ten <= about) ?? 1)).toPrecision(1))
}

/** Draws the bar at the lower right, its length to the pixel. @throws Refusal where it would be longer than the picture is wide, or no pixel long. */
export async function drawScaleBar(canvas: Canvas, { pixel_mm, length_mm }: StepOf<'scaleBar'>, tools: Tools): Promise<void> {
  const { width, height, scale } = canvas
  const short = Math.min(width, height)
  const margin = Math.round(MARGIN * short)
  const long = Math.round((length_mm / pixel_mm) * scale)
  if (long < 2 || long > width - 2 * margin) throw refusal('finish.barLength', { length_mm: Number(length_mm.toPrecision(3)) })
  const thick = Math.max(1, Math.round(THICK * short))
  const words = await tools.words(barText(length_mm), Math.max(7, Math.round(HIGH * short)))
  const gap = Math.max(2, thick)
  const right = width - margin
  const bottom = height - margin
  const across = Math.max(long, words.width)
  darken(canvas, right - across - gap, bottom - thick - words.height - 3 * gap, right + gap, bottom + gap)
  whiten(canvas, right - long, bottom - thick, long, thick, () => 255)
  const left = right - Math.round((across + words.width) / 2)
  whiten(canvas, left, bottom - thick - 2 * gap - words.height, words.width, words.height, (i) => words.data[i])
}

function darken({ samples, width, height }: Canvas, left: number, top: number, right: number, bottom: number): void {
  for (let y = Math.max(0, top); y < Math.min(height, bottom); y++)
    for (let i = 3 * (y * width + Math.max(0, left)); i < 3 * (y * width + Math.min(width, right)); i++) samples[i] *= PLATE
}

function whiten({ samples, width, height }: Canvas, left: number, top: number, across: number, down: number, cover: (i: number) => number): void {
  for (let v = 0, k = 0; v < down; v++)
    for (let u = 0; u < across; u++, k++) {
      const [x, y] = [left + u, top + v]
      if (x < 0 || y < 0 || x >= width || y >= height) continue
      const part = cover(k) / 255
      for (let c = 0, i = 3 * (y * width + x); c < 3; c++, i++) samples[i] += part * (65535 - samples[i])
    }
}
