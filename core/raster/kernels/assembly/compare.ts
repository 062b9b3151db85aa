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
