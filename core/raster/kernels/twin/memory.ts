export const floats = (memory: ArrayBuffer, at: number) => new Float32Array(memory, at)

/** Places of a plane as 0 … 1, of two or four bytes each. */
export function reader(memory: ArrayBuffer, at: number, bytes: number): (place: number) => number {
  if (bytes === 4) {
    const values = floats(memory, at)
    return (place) => values[place]
  }
  const values = new Uint16Array(memory, at)
  const unit = Math.fround(1 / 65535)
  return (place) => values[place] * unit
}

export function clamp(index: number, size: number): number {
  return index < 0 ? 0 : index >= size ? size - 1 : index
}

export function mirror(index: number, size: number): number {
  if (size === 1) return 0
  const folded = index < 0 ? -index : index >= size ? 2 * size - 2 - index : index
  return Math.min(Math.max(folded, 0), size - 1)
}

export function blend(a: number, b: number, c: number, d: number, e: number): number {
  return (a + e + 4 * (b + d) + 6 * c) * 0.0625
}

/** A coarse plane brought to twice its size, at one place. */
export function expanded(coarse: Float32Array, stride: number, width: number, height: number): (x: number, y: number) => number {
  const down = (i: number, y: number) => {
    const j = y >> 1
    const here = coarse[j * stride + i]
    const below = coarse[Math.min(j + 1, height - 1) * stride + i]
    return y & 1 ? 0.5 * (here + below) : 0.125 * (coarse[Math.max(j - 1, 0) * stride + i] + below) + 0.75 * here
  }
  return (x, y) => {
    const i = x >> 1
    const right = down(Math.min(i + 1, width - 1), y)
    return x & 1 ? 0.5 * (down(i, y) + right) : 0.125 * (down(Math.max(i - 1, 0), y) + right) + 0.75 * down(i, y)
  }
}

/** Energy to weight; the energy as it is where the power is 0. */
export function weightOf(energy: number, scale: number, least: number, power: number): number {
  return power === 0 ? energy : (energy * scale + least) ** power
}
