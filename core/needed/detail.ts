/** Encoded luma of a whole picture as whole numbers of 16 bits. */
export interface Luma {
  width: number
  height: number
  data: Uint16Array
}

/** Detail is compared in tiles so large, in px. */
export const TILE_px = 48
/** What lies beside a tile is smoothed with it. */
const AROUND_px = 4
/** Fainter detail than this, as a root mean square of encoded luma, shows to no eye. */
const LEAST_DETAIL = 1 / 255
/** Noise has detail too: a tile tells where it has so many times what noise has there. Interpolation hides some of it from the measure. */
const NOISE_times = 8
/** What the finest band has of white noise, as a part of its variance. */
const NOISE_in_band = 0.0665
/** Noise is read in the plainest tiles: this part of all. */
const PLAIN_share = 0.1

export interface Tiles {
  across: number
  down: number
}

/** What each tile of one picture keeps of another's detail. */
export interface KeptDetail extends Tiles {
  /** 1: all of it; NaN where the other has none to speak of. */
  kept: Float32Array
  /** Mean square difference of encoded luma, 0 … 1, in each tile. */
  squares: Float32Array
}

/** The tiles of a picture; those at the right and lower edge are up to twice as large. */
export const tilesOf = ({ width, height }: Pick<Luma, 'width' | 'height'>): Tiles => ({
  across: Math.max(1, Math.floor(width / TILE_px)),
  down: Math.max(1, Math.floor(height / TILE_px)),
})

/**
 * How much of the fine detail of `whole` another picture of the same scene keeps, tile by tile: the regression of its finest detail
 * (between Gaussians of σ = 0.7 and 1.6 px) on that of `whole`. Blur takes from it in proportion; noise of its own changes nothing.
 */
export function keptDetail(whole: Luma, other: Luma): KeptDetail {
  const { across, down } = tilesOf(whole)
  const count = across * down
  const [kept, squares, energy, noise] = Array.from({ length: 4 }, () => new Float32Array(count))
  for (let row = 0, tile = 0; row < down; row++)
    for (let column = 0; column < across; column++, tile++) {
      const [x, y] = [column * TILE_px, row * TILE_px]
      const [toX, toY] = [column === across - 1 ? whole.width : x + TILE_px, row === down - 1 ? whole.height : y + TILE_px]
      const [one, two] = [fineDetail(whole, x, y, toX, toY), fineDetail(other, x, y, toX, toY)]
      let [own, shared, apart] = [0, 0, 0]
      for (let i = 0; i < one.length; i++) {
        own += one[i] * one[i]
        shared += one[i] * two[i]
      }
      for (let py = y; py < toY; py++)
        for (let px = x, i = py * whole.width + x; px < toX; px++, i++) apart += ((whole.data[i] - other.data[i]) / 65535) ** 2
      noise[tile] = noiseVariance(whole, x, y, toX, toY)
      squares[tile] = apart / ((toX - x) * (toY - y))
      energy[tile] = own / one.length
      kept[tile] = shared / (own + 1e-12)
    }
  const plain = noise.slice().sort()[Math.floor(PLAIN_share * count)]
  const least = Math.max(LEAST_DETAIL ** 2, NOISE_times * NOISE_in_band * plain)
  kept.forEach((_, tile) => energy[tile] < least && (kept[tile] = NaN))
  return { across, down, kept, squares }
}

/**
 * Variance of the noise in a part of a picture, by what edges and slopes leave least in: 1 −2 1 across and down.
 * Source: J. Immerkær, Fast noise variance estimation, 1996.
 */
function noiseVariance({ width, height, data }: Luma, x: number, y: number, toX: number, toY: number): number {
  let [sum, count] = [0, 0]
  for (let py = Math.max(1, y); py < Math.min(height - 1, toY); py++)
    for (let px = Math.max(1, x), i = py * width + px; px < Math.min(width - 1, toX); px++, i++, count++) {
      const row = (at: number) => data[at - 1] - 2 * data[at] + data[at + 1]
      sum += ((row(i - width) - 2 * row(i) + row(i + width)) / 65535) ** 2
    }
  return sum / (36 * Math.max(1, count))
}

/** The finest detail of a part of a picture, row by row; beyond the picture its border goes on. */
function fineDetail({ width, height, data }: Luma, x: number, y: number, toX: number, toY: number): Float32Array {
  const [wide, high] = [toX - x + 2 * AROUND_px, toY - y + 2 * AROUND_px]
  const part = new Float32Array(wide * high)
  for (let v = 0, i = 0; v < high; v++) {
    const from = Math.min(height - 1, Math.max(0, y + v - AROUND_px)) * width
    for (let u = 0; u < wide; u++, i++) part[i] = data[from + Math.min(width - 1, Math.max(0, x + u - AROUND_px))] / 65535
  }
  const fine = smoothed(part, wide, high)
  let coarse = fine
  for (let k = 0; k < 4; k++) coarse = smoothed(coarse, wide, high)
  const out = new Float32Array((toX - x) * (toY - y))
  for (let v = AROUND_px, o = 0; v < high - AROUND_px; v++)
    for (let u = AROUND_px, i = v * wide + AROUND_px; u < wide - AROUND_px; u++, i++, o++) out[o] = fine[i] - coarse[i]
  return out
}

/** Weights 1 2 1 across and down: a variance of ½ px². The outermost row and column are left as they are. */
function smoothed(part: Float32Array, wide: number, high: number): Float32Array {
  const rows = part.slice()
  for (let v = 0; v < high; v++) for (let u = 1, i = v * wide + 1; u < wide - 1; u++, i++) rows[i] = (part[i - 1] + 2 * part[i] + part[i + 1]) / 4
  const out = rows.slice()
  for (let v = 1; v < high - 1; v++) for (let u = 0, i = v * wide; u < wide; u++, i++) out[i] = (rows[i - wide] + 2 * rows[i] + rows[i + wide]) / 4
  return out
}
