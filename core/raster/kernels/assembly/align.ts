// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** Numbers that a point has: where it lies from the centre, x and y, what it shows, the gradient there, and one over the deviation of noise. */
const POINT: usize = 24
/** Points that sums are made of at a time: threads share the blocks, and what they add up to does not depend on how. */
const BLOCK: i32 = 128
/** Light below which noise no longer falls. */
const FAINT: f32 = 0.03

/** The places whose gradients are stronger than a threshold, away from the border, as points; how many there are to `count`. */
export function collect(
  strength: usize, image: usize, gx: usize, gy: usize, stride: i32, width: i32, height: i32, threshold: f32, points: usize, most: i32, count: usize, _from: i32, _to: i32,
): void {
  const middleX = <f32>(width - 1) * 0.5
  const middleY = <f32>(height - 1) * 0.5
  let n = 0
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      const o = <usize>(y * stride + x) << 2
      if (load<f32>(strength + o) <= threshold || n == most) continue
      const p = points + <usize>n * POINT
      store<f32>(p, <f32>x - middleX)
      store<f32>(p + 4, <f32>y - middleY)
      store<f32>(p + 8, load<f32>(image + o))
      store<f32>(p + 12, load<f32>(gx + o))
      store<f32>(p + 16, load<f32>(gy + o))
      store<f32>(p + 20, <f32>1 / sqrt<f32>(max<f32>(load<f32>(image + o), 0) + FAINT))
      n++
    }
  }
  store<f64>(count, n)
}

/** What the moved frame shows at each point of the blocks, NaN outside of it; sums of it and of what the points show (see the twin). */
export function sampleAt(
  points: usize, count: i32, image: usize, stride: i32, width: i32, height: i32, a: f64, b: f64, startX: f64, startY: f64,
  samples: usize, sums: usize, from: i32, to: i32,
): void {
  for (let block = from; block < to; block++)
    sampleBlock(points, block * BLOCK, min(count, (block + 1) * BLOCK), image, stride, width, height, a, b, startX, startY, samples, sums + <usize>block * 48)
}

@inline function sampleBlock(
  points: usize, first: i32, end: i32, image: usize, stride: i32, width: i32, height: i32, a: f64, b: f64, startX: f64, startY: f64,
  samples: usize, sums: usize,
): void {
  const mostX = <f64>(width - 2)
  const mostY = <f64>(height - 2)
  let n: f64 = 0, sumS: f64 = 0, sumR: f64 = 0, sumSS: f64 = 0, sumRR: f64 = 0, sumSR: f64 = 0
  for (let k = first; k < end; k++) {
    const p = points + <usize>k * POINT
    const x = <f64>load<f32>(p)
    const y = <f64>load<f32>(p + 4)
    const qx = a * x - b * y + startX
    const qy = b * x + a * y + startY
    const to = samples + (<usize>k << 2)
    if (!(qx >= 1 && qy >= 1 && qx < mostX && qy < mostY)) {
      store<f32>(to, f32.NaN)
      continue
    }
    const ix = <i32>qx
    const iy = <i32>qy
    const tx = qx - <f64>ix
    const o = image + (<usize>(iy * stride + ix) << 2)
    const u = o + (<usize>stride << 2)
    const above = <f64>load<f32>(o) + tx * (<f64>load<f32>(o + 4) - <f64>load<f32>(o))
    const below = <f64>load<f32>(u) + tx * (<f64>load<f32>(u + 4) - <f64>load<f32>(u))
    const value = <f32>(above + (qy - <f64>iy) * (below - above))
    store<f32>(to, value)
    const s = <f64>value
    const r = <f64>load<f32>(p + 8)
    n += 1
    sumS += s
    sumR += r
    sumSS += s * s
    sumRR += r * r
    sumSR += s * r
  }
  store<f64>(sums, n)
  store<f64>(sums + 8, sumS)
  store<f64>(sums + 16, sumR)
  store<f64>(sums + 24, sumSS)
  store<f64>(sums + 32, sumRR)
  store<f64>(sums + 40, sumSR)
}

/** Sums of the normal equations for (scale, rotation, dx, dy) over each block, each point weighed by how small its residual is. */
export function normalSums(points: usize, count: i32, samples: usize, gain: f64, offset: f64, cut: f64, unit: f64, sums: usize, from: i32, to: i32): void {
  for (let block = from; block < to; block++)
    normalBlock(points, block * BLOCK, min(count, (block + 1) * BLOCK), samples, gain, offset, cut, unit, sums + <usize>block * 112)
}

@inline function normalBlock(points: usize, first: i32, end: i32, samples: usize, gain: f64, offset: f64, cut: f64, unit: f64, sums: usize): void {
  let ss: f64 = 0, sr: f64 = 0, sx: f64 = 0, sy: f64 = 0, rr: f64 = 0, rx: f64 = 0, ry: f64 = 0, xx: f64 = 0, xy: f64 = 0, yy: f64 = 0
  let es: f64 = 0, er: f64 = 0, ex: f64 = 0, ey: f64 = 0
  for (let k = first; k < end; k++) {
    const p = points + <usize>k * POINT
    const quiet = <f64>load<f32>(p + 20)
    const e = (gain * <f64>load<f32>(samples + (<usize>k << 2)) + offset - <f64>load<f32>(p + 8)) * quiet
    const t = e * cut
    // Outside the frame there is no residual: NaN fails both comparisons too.
    if (!(t < 1 && t > -1)) continue
    const near = 1 - t * t
    const weight = near * near
    const x = <f64>load<f32>(p) * unit
    const y = <f64>load<f32>(p + 4) * unit
    const gx = <f64>load<f32>(p + 12) * quiet
    const gy = <f64>load<f32>(p + 16) * quiet
    const s = gx * x + gy * y
    const r = gy * x - gx * y
    const ws = weight * s
    const wr = weight * r
    const wx = weight * gx
    const wy = weight * gy
    ss += ws * s
    sr += ws * r
    sx += ws * gx
    sy += ws * gy
    rr += wr * r
    rx += wr * gx
    ry += wr * gy
    xx += wx * gx
    xy += wx * gy
    yy += wy * gy
    es -= ws * e
    er -= wr * e
    ex -= wx * e
    ey -= wy * e
  }
  store<f64>(sums, ss)
  store<f64>(sums + 8, sr)
  store<f64>(sums + 16, sx)
  store<f64>(sums + 24, sy)
  store<f64>(sums + 32, rr)
  store<f64>(sums + 40, rx)
  store<f64>(sums + 48, ry)
  store<f64>(sums + 56, xx)
  store<f64>(sums + 64, xy)
  store<f64>(sums + 72, yy)
  store<f64>(sums + 80, es)
  store<f64>(sums + 88, er)
  store<f64>(sums + 96, ex)
  store<f64>(sums + 104, ey)
}
