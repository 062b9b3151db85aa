import { cutPart, layBelow, Mender, piecesOf, strokeMask, type Depths, type PaintEdit, type Stroke } from '.'
import { WasmKernels, Workspace } from '../raster/kernels'

const [WIDTH, HEIGHT] = [80, 60]
const stroke = (change: Partial<Stroke> = {}): Stroke => ({ path: [[40, 30]], radius_px: 12, softness: 0.5, opacity: 1, ...change })
const ramp = () => Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => (i * 37) % 65536)
const donor = () => Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => (i * 101 + 500) % 65536)
const kernels = new WasmKernels()
const menderOf = (samples: Uint16Array, depths?: Depths) => new Mender(samples, WIDTH, HEIGHT, kernels, depths)
const painted = (edit: PaintEdit, from = donor(), samples = ramp()) => {
  const mender = menderOf(samples)
  for (const part of piecesOf(edit, WIDTH, HEIGHT)) mender.paint(edit, part, cutPart(from, WIDTH, part))
  return mender.samples
}

test('inside a stroke is the donor, outside nothing changes, and in between the two are mixed', () => {
  const edit: PaintEdit = { id: '1', kind: 'donor', frame: 'f', ...stroke() }
  const out = painted(edit)
  const { strength } = strokeMask(edit, { x: 0, y: 0, width: WIDTH, height: HEIGHT }, new Workspace(kernels, WIDTH))
  const [before, from] = [ramp(), donor()]
  let mixed = 0
  for (let i = 0; i < out.length; i++) {
    const s = strength[Math.floor(i / 3)]
    if (s === 0) expect(out[i]).toBe(before[i])
    else if (s === 1) expect(out[i]).toBe(from[i])
    else {
      mixed++
      expect(Math.abs(out[i] - (before[i] + s * (from[i] - before[i])))).toBeLessThanOrEqual(1)
    }
  }
  expect(mixed).toBeGreaterThan(100)
})

test('a gate keeps a stroke to the depths between', () => {
  const depths = {
    width: WIDTH,
    height: HEIGHT,
    most: 1,
    data: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => (i % WIDTH < 40 ? 0.1 : 0.9)),
  }
  const edit: PaintEdit = { id: '1', kind: 'donor', frame: 'f', ...stroke({ gate: { near: 0.5, far: 1 } }) }
  const mender = menderOf(ramp(), depths)
  for (const part of piecesOf(edit, WIDTH, HEIGHT)) mender.paint(edit, part, cutPart(donor(), WIDTH, part))
  const at = (x: number) => 3 * (30 * WIDTH + x)
  expect(mender.samples[at(38)]).toBe(ramp()[at(38)])
  expect(mender.samples[at(42)]).toBe(donor()[at(42)])
})

test('a place is brought back as it was before every edit', () => {
  const mender = menderOf(ramp())
  const paint: PaintEdit = { id: '1', kind: 'donor', frame: 'f', ...stroke({ radius_px: 20 }) }
  const back: PaintEdit = { id: '2', kind: 'original', ...stroke({ radius_px: 6, softness: 0 }) }
  for (const edit of [paint, back]) mender.remember(edit)
  for (const part of piecesOf(paint, WIDTH, HEIGHT)) mender.paint(paint, part, cutPart(donor(), WIDTH, part))
  mender.restore(back)
  const at = (x: number) => 3 * (30 * WIDTH + x)
  expect(mender.samples[at(40)]).toBe(ramp()[at(40)])
  expect(mender.samples[at(48)]).toBe(donor()[at(48)])
})

test('an even tone brings a darker donor to the picture, and leaves its detail', () => {
  // A picture of even grey; a donor darker by a tenth, with a checked texture.
  const grey = new Uint16Array(WIDTH * HEIGHT * 3).fill(30_000)
  const dark = Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => {
    const [x, y] = [Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH)]
    return 27_000 + ((x + y) % 2 ? 400 : -400)
  })
  const edit: PaintEdit = { id: '1', kind: 'donor', frame: 'f', evenTone: true, ...stroke({ softness: 0 }) }
  const out = painted(edit, dark, grey)
  const inside = [...strokeMask(edit, { x: 0, y: 0, width: WIDTH, height: HEIGHT }, new Workspace(kernels, WIDTH)).strength].flatMap((s, i) =>
    s > 0 ? [out[3 * i]] : [],
  )
  const mean = inside.reduce((a, b) => a + b) / inside.length
  expect(Math.abs(mean - 30_000)).toBeLessThan(60)
  expect(Math.max(...inside) - Math.min(...inside)).toBeGreaterThan(700)
  expect(Math.max(...inside) - Math.min(...inside)).toBeLessThan(1000)
})

test('a speck is filled so that the texture around it goes on', () => {
  // Stripes at a slant, with a black speck; where it lay the stripes are known.
  const stripe = (x: number, y: number) => 32_768 + 20_000 * Math.sin(0.7 * x + 0.4 * y)
  const clean = Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => stripe(Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH)))
  const speck: PaintEdit = { id: '1', kind: 'heal', ...stroke({ radius_px: 6, softness: 0 }) }
  const mask = strokeMask(speck, { x: 0, y: 0, width: WIDTH, height: HEIGHT }, new Workspace(kernels, WIDTH)).strength
  const dirty = clean.slice()
  mask.forEach((s, i) => s > 0 && dirty.fill(0, 3 * i, 3 * i + 3))
  const mend = () => {
    const mender = menderOf(dirty.slice())
    mender.heal(speck)
    return mender.samples
  }
  const out = mend()
  let square = 0
  let count = 0
  mask.forEach((s, i) => {
    if (s === 0) return expect(out[3 * i]).toBe(dirty[3 * i])
    square += (out[3 * i] - clean[3 * i]) ** 2
    count++
  })
  // A smooth filling would be off by the stripes themselves: 14,000.
  expect(Math.sqrt(square / count)).toBeLessThan(3500)
  expect(mend()).toEqual(out)
})

test('a frame is laid below its line, softly over the line’s width', () => {
  const samples = new Uint16Array(4 * 20 * 3).fill(1000)
  layBelow(samples, 4, 20, new Uint16Array(4 * 20 * 3).fill(3000), {
    frame: 'f',
    until: [
      [0, 10],
      [3, 10],
    ],
    width_px: 8,
  })
  const column = Array.from({ length: 20 }, (_, y) => samples[3 * 4 * y])
  expect(column.slice(0, 6)).toEqual(Array(6).fill(1000))
  expect(column.slice(14)).toEqual(Array(6).fill(3000))
  expect(column[10]).toBe(2000)
  expect([...column].sort((a, b) => a - b)).toEqual(column)
})
