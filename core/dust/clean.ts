import { membrane } from '../mend'
import { decoded, encoded } from '../raster'
import type { FoundDust, Speck } from './finder'

/** Where less of the light comes through than this, what is beneath is not brought up but filled in from around. */
const LEAST_SHADE = 0.25

/**
 * A frame without its dust: what a speck dims is made as bright as it would be, and where it dims too much the place is filled evenly
 * from around, so that it has no detail and other frames show what lies there. `samples` is interleaved RGB of 8 or 16 bits of the
 * frame's full size; changed in place.
 */
export function withoutDust(samples: Uint8Array | Uint16Array, width: number, height: number, found: FoundDust): void {
  const lies = liesIn(found, width)
  for (const speck of found.specks)
    clean(samples, width, height, found.unhalved_px > found.width ? { ...speck, shade: unblurred(speck) } : speck, lies)
}

/** Where the places that were looked at lie in frames of some width: `scale` times as far on, from `offset_px`. */
export function liesIn({ width, unhalved_px }: FoundDust, width_px: number): { scale: number; offset_px: number } {
  // Halving keeps every second place; other sizes keep the middle.
  const larger = width_px / unhalved_px
  return { scale: Math.round(unhalved_px / width) * larger, offset_px: (larger - 1) / 2 }
}

/** What halving leaves of a place's own, and takes from each neighbour, once it is laid out again in between: (1 4 6 4 1)/16 of straight lines. */
const [OWN, BESIDE] = [10 / 16, 3 / 16]
const SHARPENINGS = 3

/** A shade as it was before it was halved (Van Cittert, 1931): a speck's rim is no wider than that blurs it. */
function unblurred({ shade, width, height }: Speck): Float32Array {
  const sharp = Float32Array.from(shade)
  const line = new Float32Array(shade.length)
  const at = (values: Float32Array, x: number, y: number) =>
    values[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))]
  for (let round = 0; round < SHARPENINGS; round++) {
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) line[i] = OWN * sharp[i] + BESIDE * (at(sharp, x - 1, y) + at(sharp, x + 1, y))
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const blurred = OWN * line[i] + BESIDE * (at(line, x, y - 1) + at(line, x, y + 1))
        sharp[i] = Math.min(1, Math.max(0, sharp[i] + shade[i] - blurred))
      }
  }
  return sharp
}

type Lying = ReturnType<typeof liesIn>

function clean(samples: Uint8Array | Uint16Array, width: number, height: number, speck: Speck, { scale, offset_px }: Lying): void {
  const most = samples instanceof Uint16Array ? 65535 : 255
  const left = Math.max(0, Math.floor((speck.left - 1) * scale + offset_px))
  const top = Math.max(0, Math.floor((speck.top - 1) * scale + offset_px))
  const right = Math.min(width - 1, Math.ceil((speck.left + speck.width) * scale + offset_px))
  const bottom = Math.min(height - 1, Math.ceil((speck.top + speck.height) * scale + offset_px))
  const [w, h] = [right - left + 1, bottom - top + 1]
  const patch = new Float32Array(w * h * 3)
  const known = new Uint8Array(w * h).fill(1)
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const shade = shadeAt(speck, (left + x - offset_px) / scale, (top + y - offset_px) / scale)
      const from = 3 * ((top + y) * width + left + x)
      for (let c = 0; c < 3; c++) patch[3 * i + c] = most * encoded(Math.min(1, decoded(samples[from + c] / most) / Math.max(shade, LEAST_SHADE)))
      if (shade < LEAST_SHADE) known[i] = 0
    }
  const filled = known.includes(0) ? membrane({ width: w, height: h, samples: patch }, known).samples : patch
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const to = 3 * ((top + y) * width + left + x)
      for (let c = 0; c < 3; c++) samples[to + c] = Math.min(most, Math.max(0, filled[3 * i + c] + 0.5))
    }
}

/** Between four places of the shade, linearly; the nearest beyond it, as a speck may go on beyond the picture's edge. */
function shadeAt({ left, top, width, height, shade }: Speck, x: number, y: number): number {
  const [u, v] = [x - left, y - top]
  const [x0, y0] = [Math.floor(u), Math.floor(v)]
  const [tx, ty] = [u - x0, v - y0]
  const at = (px: number, py: number) => shade[Math.min(height - 1, Math.max(0, py)) * width + Math.min(width - 1, Math.max(0, px))]
  return (at(x0, y0) * (1 - tx) + at(x0 + 1, y0) * tx) * (1 - ty) + (at(x0, y0 + 1) * (1 - tx) + at(x0 + 1, y0 + 1) * tx) * ty
}
