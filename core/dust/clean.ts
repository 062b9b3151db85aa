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
export function withoutDust(samples: Uint8Array | Uint16Array, width: number, height: number, { specks, ...looked }: FoundDust): void {
  const scale = width / looked.width
  for (const speck of specks) clean(samples, width, height, speck, scale)
}

function clean(samples: Uint8Array | Uint16Array, width: number, height: number, speck: Speck, scale: number): void {
  const most = samples instanceof Uint16Array ? 65535 : 255
  const left = Math.max(0, Math.floor((speck.left - 0.5) * scale))
  const top = Math.max(0, Math.floor((speck.top - 0.5) * scale))
  const right = Math.min(width - 1, Math.ceil((speck.left + speck.width - 0.5) * scale))
  const bottom = Math.min(height - 1, Math.ceil((speck.top + speck.height - 0.5) * scale))
  const [w, h] = [right - left + 1, bottom - top + 1]
  const patch = new Float32Array(w * h * 3)
  const known = new Uint8Array(w * h).fill(1)
  for (let y = 0, i = 0; y < h; y++)
    for (let x = 0; x < w; x++, i++) {
      const shade = shadeAt(speck, (left + x + 0.5) / scale - 0.5, (top + y + 0.5) / scale - 0.5)
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

/** Between four places of the shade, linearly; 1 beyond it. */
function shadeAt({ left, top, width, height, shade }: Speck, x: number, y: number): number {
  const [u, v] = [x - left, y - top]
  const [x0, y0] = [Math.floor(u), Math.floor(v)]
  const [tx, ty] = [u - x0, v - y0]
  const at = (px: number, py: number) => (px < 0 || py < 0 || px >= width || py >= height ? 1 : shade[py * width + px])
  return (at(x0, y0) * (1 - tx) + at(x0 + 1, y0) * tx) * (1 - ty) + (at(x0, y0 + 1) * (1 - tx) + at(x0 + 1, y0 + 1) * tx) * ty
}
