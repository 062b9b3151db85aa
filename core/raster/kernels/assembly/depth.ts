// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** A plane evened out over what is alike around each place; see the twin. */
export function even(
  plane: usize, trust: usize, stride: i32, width: i32, radius: i32, alike: f32, taps: usize, target: usize,
  agreement: usize, from: i32, to: i32,
): void {
  const rowBytes = <usize>stride << 2
  const scale = f32x4.splat(1 / alike)
  const one = f32x4.splat(1)
  const none = f32x4.splat(0)
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x += 4) {
      const o = <usize>y * rowBytes + (<usize>x << 2)
      const own = v128.load(plane + o)
      let sum = none
      let total = none
      let all = none
      let tap = taps
      for (let row = -radius; row <= radius; row++) {
        let p = o + <usize>(row * stride - radius) * 4
        for (let column = -radius; column <= radius; column++, p += 4, tap += 4) {
          const there = v128.load(plane + p)
          const apart = f32x4.mul(f32x4.sub(there, own), scale)
          const likeness = f32x4.max(none, f32x4.sub(one, f32x4.mul(apart, apart)))
          const near = f32x4.mul(v128.load32_splat(tap), v128.load(trust + p))
          const weight = f32x4.mul(f32x4.mul(likeness, likeness), near)
          sum = f32x4.add(sum, f32x4.mul(weight, there))
          total = f32x4.add(total, weight)
          all = f32x4.add(all, near)
        }
      }
      v128.store(target + o, f32x4.div(sum, total))
      v128.store(agreement + o, f32x4.div(total, all))
    }
  }
}
