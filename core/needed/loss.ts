import type { Rectangle } from '../raster'
import { keptDetail, TILE_px, type KeptDetail, type Luma } from './detail'

/** A tile that keeps less than this of its detail looks soft beside what it was. */
const SOFT = 0.8
/** Softness shows where so large a part of the tiles with detail is soft, and so many of them. */
const SHOWS_share = 0.01
const SHOWS_tiles = 3
/** The worst tiles: this part of all. */
const WORST_share = 0.05

/** What is lost against the picture of all frames. */
export interface Loss {
  /** Over all of the picture, and over the worst twentieth of the tiles: of encoded luma. */
  psnr_dB: number
  worst_dB: number
  /** Share of the tiles with detail that look soft, in percent. */
  soft_percent: number
  visible: boolean
  /** Where most is lost, in px of the picture; absent where nothing looks soft. */
  softest?: Rectangle
}

/** What `other` has lost of `whole`, a picture of the same size; parts of the picture that moved are not judged. */
export function lossOf(whole: Luma, other: Luma, moved: Rectangle[] = []): Loss {
  return judged(whole, keptDetail(whole, other), moved)
}

/** A loss from the detail that each tile keeps. */
export function judged(size: Pick<Luma, 'width' | 'height'>, { across, kept, squares }: KeptDetail, moved: Rectangle[] = []): Loss {
  const tile = (k: number): Rectangle => ({ x: (k % across) * TILE_px, y: Math.floor(k / across) * TILE_px, width: TILE_px, height: TILE_px })
  const still = [...kept.keys()].filter((k) => !moved.some((part) => touch(part, tile(k))))
  const telling = still.filter((k) => !Number.isNaN(kept[k]))
  const soft = telling.filter((k) => kept[k] < SOFT)
  const worst = still.map((k) => squares[k]).sort((a, b) => b - a)
  const worstCount = Math.max(1, Math.round(WORST_share * worst.length))
  const softest = soft.length > 0 ? soft.reduce((a, b) => (lostAround(b) > lostAround(a) ? b : a)) : undefined
  return {
    psnr_dB: decibels(worst),
    worst_dB: decibels(worst.slice(0, worstCount)),
    soft_percent: (100 * soft.length) / Math.max(1, telling.length),
    visible: soft.length >= Math.max(SHOWS_tiles, SHOWS_share * telling.length),
    ...(softest !== undefined && { softest: around(tile(softest), size) }),
  }

  /** A single soft tile may be a chance; one among others is not. */
  function lostAround(k: number): number {
    return [k - across - 1, k - across, k - across + 1, k - 1, k, k + 1, k + across - 1, k + across, k + across + 1].reduce(
      (sum, other) => sum + (kept[other] < SOFT ? 1 - kept[other] : 0),
      1 - kept[k],
    )
  }
}

/** The same as nothing at all is told as 100 dB. */
const decibels = (squares: number[]) => Math.min(100, -10 * Math.log10(squares.reduce((sum, square) => sum + square, 0) / squares.length))

const touch = (a: Rectangle, b: Rectangle) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

/** A tile and those beside it, within the picture. */
function around({ x, y }: Rectangle, { width, height }: Pick<Luma, 'width' | 'height'>): Rectangle {
  const [left, top] = [Math.max(0, x - TILE_px), Math.max(0, y - TILE_px)]
  return { x: left, y: top, width: Math.min(width, x + 2 * TILE_px) - left, height: Math.min(height, y + 2 * TILE_px) - top }
}
