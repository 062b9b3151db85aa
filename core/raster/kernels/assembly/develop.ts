// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** A plane softened along its rows by an uneven count of `taps`; rows have room for the edge on both sides. */
export function softenAlong(source: usize, target: usize, stride: i32, width: i32, taps: usize, count: i32, from: i32, to: i32): void {
  const radius = count >> 1
  for (let y = from; y < to; y++) {
    const row = source + (<usize>(y * stride) << 2)
    const out = target + (<usize>(y * stride) << 2)
    for (let x = 0; x < width; x += 4) {
      let sum = f32x4.splat(0)
      if (x >= radius && x + 4 + radius <= width) {
        const start = row + (<usize>(x - radius) << 2)
        for (let k: usize = 0; k < <usize>count; k++) sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(taps + (k << 2)), v128.load(start + (k << 2))))
      } else {
        for (let k = 0; k < count; k++) {
          const at = x + k - radius
          const four = f32x4(edged(row, at, width), edged(row, at + 1, width), edged(row, at + 2, width), edged(row, at + 3, width))
          sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(taps + (<usize>k << 2)), four))
        }
      }
      v128.store(out + (<usize>x << 2), sum)
    }
  }
}

@inline function edged(row: usize, at: i32, width: i32): f32 { return load<f32>(row + (<usize>min(max(at, 0), width - 1) << 2)) }

/** The same along its columns. */
export function softenDown(source: usize, target: usize, stride: i32, height: i32, taps: usize, count: i32, from: i32, to: i32): void {
  const radius = count >> 1
  const rowBytes = <usize>stride << 2
  for (let y = from; y < to; y++) {
    const out = target + <usize>y * rowBytes
    for (let o: usize = 0; o < rowBytes; o += 16) {
      let sum = f32x4.splat(0)
      for (let k = 0; k < count; k++) {
        const row = source + <usize>min(max(y + k - radius, 0), height - 1) * rowBytes
        sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(taps + (<usize>k << 2)), v128.load(row + o)))
      }
      v128.store(out + o, sum)
    }
  }
}

/** One of the numbers in [0, 2^32) that a seed stands for. */
@inline function mixed(state: u32): u32 {
  let t = (state ^ (state >> 15)) * (state | 1)
  t ^= t + (t ^ (t >> 7)) * (t | 61)
  return t ^ (t >> 14)
}

/** Light to encoded values with noise, in place; see the twin. */
export function develop(
  plane: usize, stride: i32, width: i32, perLight: f32, readNoise: f32, fullWell: f32, seed: u32, index: i32, normal: usize, encoded: usize, from: i32, to: i32,
): void {
  for (let y = from; y < to; y++) {
    const row = plane + (<usize>(y * stride) << 2)
    let state = seed + <u32>(index + y * width) * 0x6d2b79f5
    for (let x: usize = 0; x < <usize>width; x++) {
      state += 0x6d2b79f5
      const photons = max<f32>(0, load<f32>(row + (x << 2)) * perLight)
      const chance = load<f32>(normal + (<usize>(mixed(state) >> 16) << 2))
      const value = (photons + chance * sqrt<f32>(photons + readNoise * readNoise)) / fullWell
      let code: f32 = 1
      if (value <= 0.0031308) code = value <= 0 ? 0 : <f32>12.92 * value
      else if (value < 1) {
        const at = value * 4096
        const k = <usize>at
        const before = load<f32>(encoded + (k << 2))
        code = before + (at - <f32>k) * (load<f32>(encoded + (k << 2) + 4) - before)
      }
      store<f32>(row + (x << 2), code)
    }
  }
}
