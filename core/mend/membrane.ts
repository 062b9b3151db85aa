/** Three channels of a rectangle, interleaved. */
export interface Patch {
  width: number
  height: number
  samples: Float32Array
}

/** The membrane is found on a grid no finer than this across: it has no detail. */
const FINEST = 96
const SWEEPS = 60

/**
 * The smooth surface that takes `known` values where `isKnown` and is as even as can be between them: what a donor must be raised by so
 * that it meets the picture at its rim without a seam (Pérez, Gangnet & Blake, "Poisson Image Editing", 2003, by its membrane). Solved
 * from coarse to fine. Where nothing is known it is 0.
 */
export function membrane(known: Patch, isKnown: Uint8Array): Patch {
  const { width, height } = known
  if (Math.max(width, height) > FINEST) return expand(membrane(...halved(known, isKnown)), width, height)
  const out: Patch = { width, height, samples: new Float32Array(width * height * 3) }
  const coarse = Math.max(width, height) > 8 ? expand(membrane(...halved(known, isKnown)), width, height) : undefined
  for (let i = 0; i < isKnown.length; i++)
    for (let c = 0; c < 3; c++) out.samples[3 * i + c] = isKnown[i] ? known.samples[3 * i + c] : (coarse?.samples[3 * i + c] ?? 0)
  if (!isKnown.includes(1)) return out
  if (!coarse) spread(out, isKnown)
  for (let sweep = 0; sweep < SWEEPS; sweep++) relax(out, isKnown, sweep & 1)
  return out
}

/** One sweep of Gauss–Seidel, forth or back; beyond the rectangle its edge is repeated. */
function relax({ width, height, samples }: Patch, isKnown: Uint8Array, back: number): void {
  const count = width * height
  for (let n = 0; n < count; n++) {
    const i = back ? count - 1 - n : n
    if (isKnown[i]) continue
    const x = i % width
    const left = x > 0 ? i - 1 : i
    const right = x < width - 1 ? i + 1 : i
    const up = i >= width ? i - width : i
    const down = i < count - width ? i + width : i
    for (let c = 0; c < 3; c++) {
      const even = (samples[3 * left + c] + samples[3 * right + c] + samples[3 * up + c] + samples[3 * down + c]) / 4
      samples[3 * i + c] += 1.5 * (even - samples[3 * i + c])
    }
  }
}

/** The coarsest level begins with the mean of what is known. */
function spread({ samples }: Patch, isKnown: Uint8Array): void {
  const sum = [0, 0, 0]
  let count = 0
  isKnown.forEach((known, i) => {
    if (!known) return
    count++
    for (let c = 0; c < 3; c++) sum[c] += samples[3 * i + c]
  })
  isKnown.forEach((known, i) => {
    if (!known) for (let c = 0; c < 3; c++) samples[3 * i + c] = sum[c] / count
  })
}

/** Half the size: the mean of what is known of each four. */
function halved({ width, height, samples }: Patch, isKnown: Uint8Array): [Patch, Uint8Array] {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1]
  const out = new Float32Array(w * h * 3)
  const known = new Uint8Array(w * h)
  const weight = new Float32Array(w * h)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!isKnown[i]) continue
      const o = (y >> 1) * w + (x >> 1)
      weight[o]++
      known[o] = 1
      for (let c = 0; c < 3; c++) out[3 * o + c] += samples[3 * i + c]
    }
  for (let o = 0; o < weight.length; o++) if (weight[o] > 0) for (let c = 0; c < 3; c++) out[3 * o + c] /= weight[o]
  return [{ width: w, height: h, samples: out }, known]
}

/** Twice the size, between pixels in proportion. */
function expand(coarse: Patch, width: number, height: number): Patch {
  const samples = new Float32Array(width * height * 3)
  for (let y = 0, o = 0; y < height; y++) {
    const v = Math.min(coarse.height - 1, Math.max(0, (y - 0.5) / 2))
    const [y0, ty] = [Math.floor(v), v % 1]
    const y1 = Math.min(coarse.height - 1, y0 + 1)
    for (let x = 0; x < width; x++, o += 3) {
      const u = Math.min(coarse.width - 1, Math.max(0, (x - 0.5) / 2))
      const [x0, tx] = [Math.floor(u), u % 1]
      const x1 = Math.min(coarse.width - 1, x0 + 1)
      for (let c = 0; c < 3; c++) {
        const at = (px: number, py: number) => coarse.samples[3 * (py * coarse.width + px) + c]
        samples[o + c] = (at(x0, y0) * (1 - tx) + at(x1, y0) * tx) * (1 - ty) + (at(x0, y1) * (1 - tx) + at(x1, y1) * tx) * ty
      }
    }
  }
  return { width, height, samples }
}
