// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** Places of a plane that another frame shows, times the weight of their cell, added to sums; see the twin. */
export function addSeen(
  values: usize, width: i32, weights: usize, across: i32, bounds: usize, a: f64, b: f64, u: f64, v: f64, sums: usize, from: i32, to: i32,
): void {
  for (let y = from; y < to; y++) {
    const first = load<i32>(bounds + (<usize>y << 3))
    const behind = load<i32>(bounds + (<usize>y << 3), 4)
    const cells = weights + (<usize>((y >> 3) * across) << 2)
    let qx = a * <f64>first - b * <f64>y + u + 0.5
    let qy = b * <f64>first + a * <f64>y + v + 0.5
    let sum = sums + (<usize>(y * width + first) << 2)
    for (let x = first; x < behind; x++, sum += 4, qx += a, qy += b) {
      const value = load<f32>(values + (<usize>(<i32>qy * width + <i32>qx) << 2))
      store<f32>(sum, load<f32>(sum) + load<f32>(cells + (<usize>(x >> 3) << 2)) * value)
    }
  }
}
