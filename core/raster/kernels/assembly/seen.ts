// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** Numbers that a pair of frames has, of 8 bytes each. */
const PAIR: usize = 48

/** Places in 2^32ths: whole numbers need not be brought to whole ones at each place, as floats do. */
@inline function fixed(value: f64): i64 { return <i64>(value * 4294967296.0) }

/** Places of a plane that other frames show, times the weights of their cells, added to sums, one pair after the other; see the twin. */
export function addAllSeen(values: usize, width: i32, across: i32, pairs: usize, count: i32, sums: usize, from: i32, to: i32): void {
  for (let pair = pairs; pair < pairs + <usize>count * PAIR; pair += PAIR) {
    const weights = <usize>load<f64>(pair)
    const bounds = <usize>load<f64>(pair, 8)
    const a = fixed(load<f64>(pair, 16))
    const b = fixed(load<f64>(pair, 24))
    const u = fixed(load<f64>(pair, 32) + 0.5)
    const v = fixed(load<f64>(pair, 40) + 0.5)
    for (let y = from; y < to; y++) {
      const first = load<i32>(bounds + (<usize>y << 3))
      const behind = load<i32>(bounds + (<usize>y << 3), 4)
      const cells = weights + (<usize>((y >> 3) * across) << 2)
      let qx = a * <i64>first - b * <i64>y + u
      let qy = b * <i64>first + a * <i64>y + v
      let sum = sums + (<usize>(y * width + first) << 2)
      for (let x = first; x < behind; x++, sum += 4, qx += a, qy += b) {
        const value = load<f32>(values + (<usize>(<i32>(qy >> 32) * width + <i32>(qx >> 32)) << 2))
        store<f32>(sum, load<f32>(sum) + load<f32>(cells + (<usize>(x >> 3) << 2)) * value)
      }
    }
  }
}
