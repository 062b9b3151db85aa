/** `out` = `a` + `share` · (`b` − `a`). */
export function mix(a: usize, b: usize, share: f32, out: usize, stride: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  const shares = f32x4.splat(share)
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) {
    const first = v128.load(a + o)
    v128.store(out + o, f32x4.add(first, f32x4.mul(shares, f32x4.sub(v128.load(b + o), first))))
  }
}

/** `out` = (`a` − `b` − `light`)². */
export function squareApart(a: usize, b: usize, light: usize, out: usize, stride: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) {
    const apart = f32x4.sub(f32x4.sub(v128.load(a + o), v128.load(b + o)), v128.load(light + o))
    v128.store(out + o, f32x4.mul(apart, apart))
  }
}

/** `out` = `a` − `b`. */
export function subtract(a: usize, b: usize, out: usize, stride: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) v128.store(out + o, f32x4.sub(v128.load(a + o), v128.load(b + o)))
}

/** `out` = what is less of `source` and `out`. */
export function lesser(source: usize, out: usize, stride: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) v128.store(out + o, f32x4.pmin(v128.load(out + o), v128.load(source + o)))
}

/** The square of the gradient, half the difference of the neighbours across and down; nothing at the border. */
export function squaredGradient(source: usize, stride: i32, width: i32, height: i32, out: usize, from: i32, to: i32): void {
  const bytes = <usize>stride << 2
  const quarter = f32x4.splat(0.25)
  for (let y = from; y < to; y++) {
    const row = out + <usize>y * bytes
    const inside = y > 0 && y < height - 1
    let s = source + <usize>y * bytes
    for (let o = row; o < row + (<usize>width << 2); o += 16, s += 16) {
      if (!inside) {
        v128.store(o, f32x4.splat(0))
        continue
      }
      const across = f32x4.sub(v128.load(s + 4), v128.load(s - 4))
      const down = f32x4.sub(v128.load(s + bytes), v128.load(s - bytes))
      v128.store(o, f32x4.mul(quarter, f32x4.add(f32x4.mul(across, across), f32x4.mul(down, down))))
    }
    store<f32>(row, 0)
    store<f32>(row + (<usize>(width - 1) << 2), 0)
  }
}
