import type { Plane } from '../raster'
import { say } from '../words'
import { median, quantile } from '../statistics'
import type { FrameFacts } from './frameFacts'
import { shakenOf } from './shaken'

/** Why a frame does not belong into the fused picture; undefined where nothing is wrong with it. */
export interface Flaw {
  role: 'divider' | 'flawed'
  code: 'other-motif' | 'dark' | 'bright' | 'colour' | 'shaken'
  reason: string
}

/** Correlation with the series' own motif below which a frame shows something else. */
const SAME_MOTIF = 0.6
/** Beyond these a frame would show as a patch in the fused picture. */
const MOST_EV = 0.45
const MOST_COLOUR_EV = 0.16
/** Encoded values to stops of light, near mid-grey: the slope of the sRGB curve in logarithms. */
const GAMMA = 2.2

/** What is wrong with frames by themselves, in the order in which they were taken. */
export function flawsOf(frames: FrameFacts[]): (Flaw | undefined)[] {
  const motif = middleMotif(frames)
  const likeness = frames.map((frame) => correlation(frame.motif, motif))
  const own = frames.filter((_, k) => likeness[k] >= SAME_MOTIF)
  const exposure = exposuresAgainst(frames, own)
  const tint = [0, 2].map((channel) => tintAgainst(frames, own, channel))
  const flaws = frames.map((_, k): Flaw | undefined => {
    const dark = exposure[k] < -MOST_EV
    // A frame without flash still shows the motif, unless it is black; a hand before the lens does not.
    if (likeness[k] < SAME_MOTIF && frames[k].black < 0.8) {
      return { role: 'divider', code: 'other-motif', reason: say('why.other-motif').text }
    }
    if (dark) return { role: 'flawed', code: 'dark', reason: say('why.dark', { stops: -exposure[k] }).text }
    if (exposure[k] > MOST_EV) return { role: 'flawed', code: 'bright', reason: say('why.bright', { stops: exposure[k] }).text }
    const off = Math.max(Math.abs(tint[0][k]), Math.abs(tint[1][k]))
    if (off > MOST_COLOUR_EV) return { role: 'flawed', code: 'colour', reason: say('why.colour', { stops: off }).text }
    return undefined
  })
  const usable = frames.map((_, k) => k).filter((k) => !flaws[k])
  for (const k of shakenOf(frames, usable)) flaws[k] = { role: 'flawed', code: 'shaken', reason: say('why.shaken').text }
  return flaws
}

/** The median of all frames, sample by sample: what most of them show. */
function middleMotif(frames: FrameFacts[]): Plane {
  const [{ motif }] = frames
  const data = motif.data.map((_, i) => median(frames.map((frame) => frame.motif.data[i])))
  return { ...motif, data }
}

/** How alike two coarse pictures are, whatever their brightness and contrast: −1 … 1. */
export function correlation(a: Plane, b: Plane): number {
  const n = a.data.length
  const meanA = a.data.reduce((sum, v) => sum + v, 0) / n
  const meanB = b.data.reduce((sum, v) => sum + v, 0) / n
  let [ab, aa, bb] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    ab += (a.data[i] - meanA) * (b.data[i] - meanB)
    aa += (a.data[i] - meanA) ** 2
    bb += (b.data[i] - meanB) ** 2
  }
  return ab / Math.sqrt(Math.max(1e-12, aa * bb))
}

/** Exposure of each frame against the middle of those that show the motif, in EV. */
export function exposuresAgainst(frames: FrameFacts[], own: FrameFacts[]): number[] {
  const level = ({ means }: FrameFacts) => GAMMA * Math.log2(Math.max(1e-4, (means[0] + means[1] + means[2]) / 3))
  const middle = median(own.map(level))
  return frames.map((frame) => level(frame) - middle)
}

function tintAgainst(frames: FrameFacts[], own: FrameFacts[], channel: number): number[] {
  const tint = ({ means }: FrameFacts) => GAMMA * Math.log2(Math.max(1e-4, means[channel]) / Math.max(1e-4, means[1]))
  const middle = median(own.map(tint))
  return frames.map((frame) => tint(frame) - middle)
}

/** How near each frame comes to the best sharpness of the tiles it holds sharpest, as a logarithm: 0 is at the best. */
export function bestShares(frames: FrameFacts[], own: FrameFacts[] = frames): number[] {
  const count = frames[0].sharpness.length
  const best = Array.from({ length: count }, (_, tile) => Math.max(...own.map(({ sharpness }) => sharpness[tile])))
  const strong = quantile(best, 0.4)
  const tiles = best.flatMap((value, tile) => (value >= strong ? [tile] : []))
  return frames.map(({ sharpness }) =>
    quantile(
      tiles.map((tile) => Math.log(Math.max(1e-12, sharpness[tile]) / best[tile])),
      0.92,
    ),
  )
}
