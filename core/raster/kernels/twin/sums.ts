import { expanded, floats, reader, weightOf } from './memory'

/**
 * sums += weight × (fine − coarse brought to its size), total += weight, where weight = (energy × scale + least)^power. Until
 * sums have `begun` they are written, whatever the memory held.
 */
export function accumulate(
  memory: ArrayBuffer,
  red: number,
  green: number,
  blue: number,
  stride: number,
  coarseRed: number,
  coarseGreen: number,
  coarseBlue: number,
  coarseStride: number,
  coarseHeight: number,
  width: number,
  weight: number,
  scale: number,
  least: number,
  power: number,
  sumRed: number,
  sumGreen: number,
  sumBlue: number,
  total: number,
  begun: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const fine = [red, green, blue].map((at) => floats(memory, at))
  const coarse = [coarseRed, coarseGreen, coarseBlue].map((at) => expanded(floats(memory, at), coarseStride, (width + 1) >> 1, coarseHeight))
  const sums = [sumRed, sumGreen, sumBlue].map((at) => floats(memory, at))
  const [energies, totals] = [floats(memory, weight), floats(memory, total)]
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride; x < width; x++, o++) {
      const here = weightOf(energies[o], scale, least, power)
      totals[o] = (begun ? totals[o] : 0) + here
      for (let c = 0; c < 3; c++) sums[c][o] = (begun ? sums[c][o] : 0) + here * (fine[c][o] - coarse[c](x, y))
    }
  }
}

/**
 * The same for the finest band, whose planes are of 16 bits, and of which no sums are kept but weighted means, in `steps` of 1; or, where `sum`, sums
 * that stay small. They take half the room, and a step is far less than noise.
 */
export function average(
  memory: ArrayBuffer,
  red: number,
  green: number,
  blue: number,
  stride: number,
  coarseRed: number,
  coarseGreen: number,
  coarseBlue: number,
  coarseStride: number,
  coarseHeight: number,
  width: number,
  weight: number,
  scale: number,
  least: number,
  power: number,
  meanRed: number,
  meanGreen: number,
  meanBlue: number,
  total: number,
  steps: number,
  sum: number,
  begun: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const fine = [red, green, blue].map((at) => reader(memory, at, 2))
  const coarse = [coarseRed, coarseGreen, coarseBlue].map((at) => expanded(floats(memory, at), coarseStride, (width + 1) >> 1, coarseHeight))
  const means = [meanRed, meanGreen, meanBlue].map((at) => new Int16Array(memory, at))
  const [energies, totals] = [floats(memory, weight), floats(memory, total)]
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride; x < width; x++, o++) {
      const here = fround(weightOf(energies[o], scale, least, power))
      totals[o] = (begun ? totals[o] : 0) + here
      // In 32 bits, as the compiled kernel: a whole step to another side would show as two of 65536.
      const keep = sum ? 1 : fround(1 - fround(here / Math.max(totals[o], LEAST_TOTAL)))
      const more = fround(steps * (sum ? here : fround(1 - keep)))
      for (let c = 0; c < 3; c++) {
        const coming = fround(fround(fround(fine[c](o)) - fround(coarse[c](x, y))) * more)
        const value = begun ? fround(coming + fround(means[c][o] * keep)) : coming
        means[c][o] = Math.min(32767, Math.max(-32768, nearestEven(value)))
      }
    }
  }
}

const { fround } = Math
/** Beside nothing at all a weight counts whole. */
const LEAST_TOTAL = 2 ** -126

/** The nearest whole number; of two the even one. */
function nearestEven(value: number): number {
  const whole = Math.round(value)
  return whole - value === 0.5 && whole % 2 !== 0 ? whole - 1 : whole
}

/** The same for what remains at the top of the pyramid: sums += weight × plane. */
export function accumulateTop(
  memory: ArrayBuffer,
  red: number,
  green: number,
  blue: number,
  stride: number,
  weight: number,
  sumRed: number,
  sumGreen: number,
  sumBlue: number,
  total: number,
  begun: number,
  from: number,
  to: number,
): void {
  const planes = [red, green, blue].map((at) => floats(memory, at))
  const sums = [sumRed, sumGreen, sumBlue].map((at) => floats(memory, at))
  const [weights, totals] = [floats(memory, weight), floats(memory, total)]
  for (let i = from * stride; i < to * stride; i++) {
    totals[i] = (begun ? totals[i] : 0) + weights[i]
    for (let c = 0; c < 3; c++) sums[c][i] = (begun ? sums[c][i] : 0) + weights[i] * planes[c][i]
  }
}

/**
 * Where `energy` is the most so far: keeps it, the frame's index, the energy of the frame before it (`lastIndex`) and, once
 * it is known, of the one after it; −1 where there is none. Energies are summed too.
 */
export function peak(
  memory: ArrayBuffer,
  energy: number,
  best: number,
  source: number,
  before: number,
  after: number,
  last: number,
  sum: number,
  stride: number,
  index: number,
  lastIndex: number,
  begun: number,
  from: number,
  to: number,
): void {
  const [energies, most, sources, befores, afters, lasts, sums] = [energy, best, source, before, after, last, sum].map((at) => floats(memory, at))
  for (let i = from * stride; i < to * stride; i++) {
    if (!begun || energies[i] > most[i]) {
      most[i] = energies[i]
      sources[i] = index
      befores[i] = begun ? lasts[i] : -1
      afters[i] = -1
    } else if (sources[i] === lastIndex) afters[i] = energies[i]
    lasts[i] = energies[i]
    sums[i] = (begun ? sums[i] : 0) + energies[i]
  }
}

/** sum = sum / total. */
export function divide(memory: ArrayBuffer, sum: number, total: number, stride: number, from: number, to: number): void {
  const [sums, totals] = [floats(memory, sum), floats(memory, total)]
  for (let i = from * stride; i < to * stride; i++) sums[i] /= totals[i]
}

/** sum = sum / total + coarse brought to its size: a pyramid put together, one level. */
export function collapse(
  memory: ArrayBuffer,
  coarse: number,
  coarseStride: number,
  coarseHeight: number,
  sum: number,
  total: number,
  stride: number,
  width: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const value = expanded(floats(memory, coarse), coarseStride, (width + 1) >> 1, coarseHeight)
  const [sums, totals] = [floats(memory, sum), floats(memory, total)]
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride; x < width; x++, o++) sums[o] = sums[o] / totals[o] + value(x, y)
  }
}

/** The finest level put together from its means (see `average`), as interleaved 16-bit samples, clipped to the range. */
export function deliver(
  memory: ArrayBuffer,
  coarseRed: number,
  coarseGreen: number,
  coarseBlue: number,
  coarseStride: number,
  coarseHeight: number,
  meanRed: number,
  meanGreen: number,
  meanBlue: number,
  stride: number,
  width: number,
  steps: number,
  out: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const coarse = [coarseRed, coarseGreen, coarseBlue].map((at) => expanded(floats(memory, at), coarseStride, (width + 1) >> 1, coarseHeight))
  const means = [meanRed, meanGreen, meanBlue].map((at) => new Int16Array(memory, at))
  const samples = new Uint16Array(memory, out)
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride, s = y * width * 3; x < width; x++, o++)
      for (let c = 0; c < 3; c++, s++) samples[s] = Math.min(65535, Math.max(0, (means[c][o] / steps + coarse[c](x, y)) * 65535 + 0.5))
  }
}
